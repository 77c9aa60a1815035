import type { ListedMachine } from '#contract/records';
import { count, differenceText, documentKindName, explainGuess, gb, list } from '#core/explaining';
import type { MachinePicture, ReadDocument, Recognised } from '#core/reconciling';
import { sumGib } from '#core/units';
import { Button } from '../../ui/Button.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { CollectingHelp } from '../evidence/CollectingHelp.tsx';
import { FileFromCodes } from '../evidence/FileFromCodes.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Failed } from '../../ui/States.tsx';
import type { useIntakeFiles } from './useIntakeFiles.ts';

interface MachineFromFilesProps {
  readonly intake: ReturnType<typeof useIntakeFiles>;
  /** The machine chosen now; empty while the one of the files is to be added. */
  readonly machineId: string;
  /** The machine of the files is to be added. */
  readonly isFromFiles: boolean;
  readonly onKnown: (machine: ListedMachine) => void;
  readonly onNew: () => void;
  /** A machine on the same board whose limits the new one takes over. */
  readonly likeness: ListedMachine | undefined;
  readonly onLikeness: (machine: ListedMachine) => void;
}

/** Which machine it is, by the files that came with it; they stay with the job. */
export function MachineFromFiles({ intake, ...choice }: MachineFromFilesProps) {
  const { state, refused, add, clear, retry } = intake;
  return (
    <div className="grid gap-3" aria-live="polite">
      <FileDrop
        label="Files from the machine"
        hint="Drop them here or anywhere on the page: a collected file, an SMBIOS dump or listing, the system’s memory list, SPD images. They fill in the machine and its slots."
        onFiles={add}
      >
        {state.type === 'reading' && (
          <p role="status" className="text-aside text-muted">
            {count(state.count, 'file')} being read
          </p>
        )}
        {state.type === 'read' && (
          <p className="flex w-full flex-wrap items-center gap-x-3 text-aside">
            <span className="figure min-w-0 break-all">
              {list(state.files.map(({ name }) => name))}
            </span>
            <Button look="quiet" onClick={clear}>
              leave out
            </Button>
          </p>
        )}
      </FileDrop>
      {state.type === 'none' && (
        <>
          <CollectingHelp />
          <FileFromCodes onFile={(file) => add([file])} />
        </>
      )}
      {state.type === 'failed' && (
        <>
          <Failed failure={state.failure} what="the reader of files" onRetry={retry} />
          <p>
            <Button look="quiet" onClick={clear}>
              leave the files out
            </Button>
          </p>
        </>
      )}
      {refused.length > 0 && <TooLarge names={refused} />}
      {state.type === 'read' && <Outcome {...state} {...choice} />}
    </div>
  );
}

/** Files that were not taken. */
export function TooLarge({ names }: { readonly names: readonly string[] }) {
  return (
    <Notice
      alert
      kind="caution"
      title={`Not taken: ${list(names)}`}
      why="More than 4 MB is no inventory; tables and images have a few kB."
      mend="Drop the memory’s own files. The others were taken."
    />
  );
}

type Read = Extract<ReturnType<typeof useIntakeFiles>['state'], { type: 'read' }>;

function Outcome(props: Read & Omit<MachineFromFilesProps, 'intake'>) {
  const { taken, reads, machineId, isFromFiles, onKnown, onNew, likeness } = props;
  if (taken.type === 'several-machines')
    return (
      <Notice
        alert
        kind="stop"
        title={`These files are of several machines: ${list(taken.names)}`}
        why="A job is for one machine; mixed, they would make one with the slots of all."
        mend="Leave them out, and drop the files of this machine alone. Each of the others gets a job of its own."
      />
    );
  if (taken.type === 'no-places')
    return (
      <Notice
        kind="caution"
        title="No list of memory slots among the files"
        why={`Read as: ${list(reads.map(kindText))}. The files stay with the job.`}
        mend="Choose or describe the machine; its slots come from there."
      />
    );
  const { picture, recognised } = taken;
  const chosen = recognised.find(({ known }) => known.id === machineId);
  if (chosen) return <Known one={chosen} onNew={onNew} />;
  if (!isFromFiles)
    return (
      <Notice
        kind="note"
        title={`The files list ${outline(picture)}`}
        why="They go with the machine chosen below, which is known by them from now on."
      >
        <Button onClick={onNew}>Add it as a new machine</Button>
      </Notice>
    );
  const guesses = picture.guesses.map((guess) => explainGuess(guess).title);
  return (
    <Notice
      kind={recognised.length > 0 ? 'caution' : 'note'}
      title={`${recognised.length > 0 ? 'Added as another machine' : 'A new machine'}: ${outline(picture)}`}
      why={guesses.length > 0 ? `${guesses.join('. ')}.` : undefined}
    >
      {recognised.map(({ known, by, differs }) => (
        <div key={known.id} className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
          {(differs.length > 0 || by === 'board') && (
            <p className="min-w-0 break-words">
              {known.machine.name}{' '}
              {by === 'board' ? 'has the same board under another name' : 'is in the library'}
              {differs.length > 0 && ` and differs: ${differs.map(differenceText).join('; ')}`}.
            </p>
          )}
          {by === 'board' && (
            <Button
              aria-pressed={likeness?.id === known.id}
              onClick={() => props.onLikeness(known)}
            >
              {likeness?.id === known.id ? '✓ Limits taken over' : 'Take over its limits'}
            </Button>
          )}
          <Button look={by === 'board' ? 'quiet' : 'plain'} onClick={() => onKnown(known)}>
            {by === 'board'
              ? 'It is the same machine'
              : `Take ${known.machine.name} from the library`}
          </Button>
        </div>
      ))}
    </Notice>
  );
}

function Known({
  one,
  onNew,
}: {
  readonly one: Recognised<ListedMachine>;
  readonly onNew: () => void;
}) {
  const { known, differs } = one;
  return (
    <Notice
      kind={differs.length > 0 ? 'caution' : 'ok'}
      title={`This machine is known: ${known.machine.name}, ${known.jobs === 0 ? 'no job yet' : count(known.jobs, 'job')}`}
      why={
        differs.length > 0 ? `It differs: ${differs.map(differenceText).join('; ')}.` : undefined
      }
    >
      <Button onClick={onNew}>Add it as another machine</Button>
    </Notice>
  );
}

const kindText = ({ kind, evidence: { name } }: ReadDocument) =>
  `${name} (${documentKindName(kind)})`;

/** `4 slots, 2 channels, 24 GB DDR4`. */
function outline({ machine, placement }: MachinePicture): string {
  const fitted = Object.values(placement).flatMap((module) => (module ? [module.capacity] : []));
  const onBoard = machine.soldered.map(({ part }) => part.capacity);
  return [
    count(machine.slots.length, 'slot'),
    count(machine.channels.length, 'channel'),
    `${gb(sumGib([...fitted, ...onBoard]))} ${machine.generations.join(', ')}`,
  ].join(', ');
}
