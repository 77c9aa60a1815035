import type { ReactNode } from 'react';
import { count } from '#core/explaining';
import { Button } from './Button.tsx';
import { Notice } from './Notice.tsx';
import type { SaveState } from './useSave.ts';

interface SaveNoticeProps {
  readonly state: SaveState;
  /** For a stale save: what each side says, as label, yours, theirs. */
  readonly sides?:
    | ((yours: unknown, theirs: unknown) => readonly (readonly [string, string, string])[])
    | undefined;
  /** Saves yours over theirs, knowingly. */
  readonly onKeepMine?: ((theirs: unknown) => void) | undefined;
  /** Drops yours. */
  readonly onTakeTheirs?: ((theirs: unknown) => void) | undefined;
}

/** What became of a save that is not through. Nothing is shown for one that is. */
export function SaveNotice({ state, sides, onKeepMine, onTakeTheirs }: SaveNoticeProps): ReactNode {
  if (state.type === 'saving' && state.left > 1)
    return <Notice kind="note" title={`${count(state.left, 'save')} on the way`} />;
  if (state.type === 'waiting')
    return (
      <Notice
        alert
        kind="caution"
        title="Not saved yet"
        why={
          state.left > 1
            ? `The server does not answer. ${count(state.left, 'save')} are kept here and sent in order when it is back.`
            : 'The server does not answer. This is kept here and saved when it is back.'
        }
      />
    );
  if (state.type !== 'failed') return null;
  const { title, detail, mend, theirs, yours } = state.failure.problem;
  if (theirs === undefined || !onKeepMine)
    return <Notice alert kind="stop" title={title} why={detail} mend={mend} />;
  return (
    <Notice alert kind="stop" title={title} why={detail} mend={mend}>
      <table className="w-full text-left text-aside">
        <thead>
          <tr>
            <td />
            <th scope="col" className="p-1">
              Yours
            </th>
            <th scope="col" className="p-1">
              Theirs, saved
            </th>
          </tr>
        </thead>
        <tbody>
          {sides?.(yours, theirs).map(([label, mine, other]) => (
            <tr key={label} className="border-t border-line align-top">
              <th scope="row" className="p-1 font-normal text-muted">
                {label}
              </th>
              <td className="p-1 break-words">{mine}</td>
              <td className="p-1 break-words">{other}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 flex gap-2">
        <Button onClick={() => onKeepMine(theirs)}>Save mine over theirs</Button>
        <Button onClick={() => onTakeTheirs?.(theirs)}>Take theirs</Button>
      </div>
    </Notice>
  );
}
