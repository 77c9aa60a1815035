import type { CountAnswer } from '#contract/stockKeeping';
import { count } from '#core/explaining';
import { Notice } from '../ui/Notice.tsx';
import { placeName } from './PlaceField.tsx';

interface DifferencesProps {
  readonly differences: CountAnswer;
  /** One place was counted, not everything. */
  readonly isPlace: boolean;
  readonly writeOff: ReadonlySet<string>;
  readonly onWriteOff: (id: string, is: boolean) => void;
}

/** What a count found against the records, heap by heap, with what becomes of each. */
export function Differences({ differences, isPlace, writeOff, onWriteOff }: DifferencesProps) {
  const { expected, found, missing, elsewhere, back, strange } = differences;
  const isClean = [missing, elsewhere, back, strange].every((heap) => heap.length === 0);
  return (
    <>
      <h2 className="text-answer font-bold">
        {found} of {expected} found
      </h2>
      {isClean && <Notice kind="ok" title="The drawer is as the records say" />}
      {missing.length > 0 && (
        <Notice
          kind="caution"
          title={`${count(missing.length, 'module')} missing`}
          why="Until they turn up they count as suspect: no plan uses them."
          mend="Look once more; write off what is lost for good."
        >
          <ul className="grid">
            {missing.map(({ id, label, place }) => (
              <li key={id}>
                <label className="flex min-h-10 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-5 shrink-0 accent-teal"
                    checked={writeOff.has(id)}
                    onChange={({ target }) => onWriteOff(id, target.checked)}
                  />
                  <span className="min-w-0 break-words">
                    write off <span className="figure">{label}</span>, {placeName(place)}{' '}
                    <span className="figure text-muted">{id}</span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
        </Notice>
      )}
      {isPlace && elsewhere.length > 0 && (
        <Heap
          title={`${count(elsewhere.length, 'module')} should lie elsewhere`}
          why="They are noted as lying here."
          lines={elsewhere.map(({ id, label, place }) => [
            id,
            `${label}, from ${placeName(place)}`,
          ])}
        />
      )}
      {back.length > 0 && (
        <Heap
          title={`${count(back.length, 'module')} had left`}
          why="They are taken back, as suspect: nobody knows where they were."
          lines={back.map(({ id, label, gone }) => [id, `${label}, ${gone}`])}
        />
      )}
      {strange.length > 0 && (
        <Heap
          title={`${count(strange.length, 'code')} of nothing in the drawer`}
          why="A part code of its maker, or another shop’s label: nothing is done about these."
          lines={strange.map((code) => [code, code])}
        />
      )}
    </>
  );
}

interface HeapProps {
  readonly title: string;
  readonly why: string;
  readonly lines: readonly (readonly [key: string, text: string])[];
}

function Heap({ title, why, lines }: HeapProps) {
  return (
    <Notice kind="note" title={title} why={why}>
      <ul className="grid gap-1 text-aside">
        {lines.map(([key, text]) => (
          <li key={key} className="figure break-words">
            {text}
          </li>
        ))}
      </ul>
    </Notice>
  );
}
