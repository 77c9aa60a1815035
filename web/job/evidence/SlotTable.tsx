import {
  cellNoteText,
  claimFieldName,
  count,
  gb,
  matchText,
  shortDay,
  sourceName,
} from '#core/explaining';
import type { Slot } from '#core/machine';
import { moduleSummary } from '#core/memory';
import { isTelling } from '#core/reconciling';
import type { Cell, FieldRow, SlotPicture } from '#core/reconciling';
import type { MakerRecord } from '#contract/evidence';
import { Mark } from '../../ui/Mark.tsx';
import type { MarkKind } from '../../ui/Mark.tsx';
import { Turner } from '../../ui/Folded.tsx';
import type { EvidenceState } from './useEvidence.ts';

interface SlotTableProps {
  readonly evidence: EvidenceState;
  readonly makers: readonly MakerRecord[];
  readonly isClosed: boolean;
}

/** Slots that are listed one by one; of more, those with nothing open stand behind one line. */
const FEW = 4;

/** Every slot with a word on its sources, and behind it what each of them says. */
export function SlotTable(props: SlotTableProps) {
  const { slots } = props.evidence.reconciled;
  const isCalm = (picture: SlotPicture) => ['ok', 'note'].includes(verdictOf(picture)[0]);
  const calm = slots.length > FEW ? slots.filter(isCalm) : [];
  return (
    <>
      <SlotLines {...props} pictures={slots.filter((one) => !calm.includes(one))} />
      {calm.length > 0 && (
        <details className="group/calm border-line not-first:border-t">
          <summary className="flex min-h-9 cursor-pointer items-center gap-x-3">
            <span aria-hidden className="text-muted group-open/calm:rotate-90">
              ▸
            </span>
            <Mark kind="ok" /> {count(calm.length, 'slot')} with nothing open
          </summary>
          <div className="pl-6">
            <SlotLines {...props} pictures={calm} />
          </div>
        </details>
      )}
    </>
  );
}

function SlotLines({
  pictures,
  ...props
}: SlotTableProps & { readonly pictures: readonly SlotPicture[] }) {
  return (
    <ul className="grid">
      {pictures.map((picture) => {
        const slot = props.evidence.machine.slots.find(({ id }) => id === picture.slotId);
        return slot && <SlotLine key={slot.id} {...props} slot={slot} picture={picture} />;
      })}
    </ul>
  );
}

function verdictOf({ rows, state }: SlotPicture): readonly [MarkKind, string] {
  const open = rows.filter(
    ({ verdict, decision, field }) => verdict === 'conflict' && !decision && isTelling(field),
  );
  if (open.length > 0) return ['stop', 'sources differ'];
  if (state === 'unseen') return ['caution', 'nobody looked'];
  if (state === 'unclear') return ['caution', 'not clear what'];
  if (rows.some(({ decision }) => decision)) return ['ok', 'decided'];
  return rows.some(({ verdict }) => verdict === 'agrees')
    ? ['ok', 'sources agree']
    : ['note', 'one source'];
}

function SlotLine({
  evidence,
  makers,
  isClosed,
  slot,
  picture,
}: SlotTableProps & { readonly slot: Slot; readonly picture: SlotPicture }) {
  const [kind, word] = verdictOf(picture);
  const { module, state, rows } = picture;
  const summary = module
    ? [gb(module.capacity), moduleSummary(module), module.partNumber].filter(Boolean).join(' · ')
    : state;
  return (
    <li className="border-t border-line first:border-0">
      <details className="group/fold">
        <summary className="flex min-h-9 cursor-pointer flex-wrap items-center gap-x-3 py-0.5">
          <Turner />
          <b className="figure w-24 break-words">{slot.printedName}</b>
          <span className="figure min-w-0 grow text-aside break-words">{summary}</span>
          <span className="flex items-center gap-2 text-aside">
            <Mark kind={kind} /> {word}
          </span>
        </summary>
        {rows.length > 0 && <Comparison {...{ evidence, makers, isClosed, slot, picture }} />}
      </details>
    </li>
  );
}

function Comparison({
  evidence,
  makers,
  isClosed,
  slot,
  picture,
}: SlotTableProps & { readonly slot: Slot; readonly picture: SlotPicture }) {
  const { rows, matches } = picture;
  const columns = [...matches].sort(
    (a, b) =>
      evidence.documents.findIndex(({ record }) => record.id === a.evidence.id) -
      evidence.documents.findIndex(({ record }) => record.id === b.evidence.id),
  );
  return (
    <div className="mb-3 overflow-x-auto">
      <table className="w-full text-left text-aside">
        <caption className="sr-only">What each source says of {slot.printedName}</caption>
        <thead>
          <tr className="align-top">
            <td />
            {columns.map(({ evidence: one, match, claim }, at) => (
              <th key={at} scope="col" className="px-2 py-1 font-normal">
                <b>{sourceName(one.source)}</b>
                <span className="block break-all text-muted">{claim.locator ?? one.name}</span>
                <span className="block text-muted">{matchText(match)}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Row
              key={row.field}
              row={row}
              ids={columns.map(({ evidence: one }) => one.id)}
              textOf={(cell) =>
                row.field === 'maker'
                  ? (makers.find(({ key }) => key === cell.shown)?.name ?? `code ${cell.shown}`)
                  : cell.shown
              }
              onBelieve={isClosed ? undefined : (id) => evidence.believe(slot.id, [row.field], id)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  readonly row: FieldRow;
  readonly ids: readonly string[];
  readonly textOf: (cell: Cell) => string;
  readonly onBelieve: ((evidenceId: string) => void) | undefined;
}

const UNITS: Partial<Record<FieldRow['field'], string>> = { rate: 'MT/s', 'set to': 'MT/s' };

function Row({ row, ids, textOf, onBelieve }: RowProps) {
  const { field, cells, verdict, chosen, decision } = row;
  const isOpen = verdict === 'conflict' && !decision && isTelling(field);
  return (
    <tr className={`border-t border-line align-top ${isOpen ? 'bg-stop-wash' : ''}`}>
      <th scope="row" className="px-2 py-1 font-normal whitespace-nowrap text-muted">
        {isOpen && <span className="font-bold text-stop">≠ </span>}
        {claimFieldName(field)}
        {UNITS[field] && <span>, {UNITS[field]}</span>}
        {decision && (
          <span className="block">
            decided by {decision.by}, {shortDay(decision.at)}
          </span>
        )}
      </th>
      {ids.map((id, at) => {
        const cell = cells.find(({ evidenceId }) => evidenceId === id);
        if (!cell)
          return (
            <td key={at} className="px-2 py-1 text-muted">
              –
            </td>
          );
        const counts = verdict === 'conflict' && cell.evidenceId === chosen.evidenceId;
        return (
          <td key={at} className="px-2 py-1">
            <span className={`figure break-all ${counts ? 'font-bold' : ''}`}>
              {counts && '● '}
              {textOf(cell)}
            </span>
            {cell.note && <span className="block text-muted">{cellNoteText(cell.note)}</span>}
            {verdict === 'conflict' && !counts && onBelieve && (
              <button
                type="button"
                className="link block min-h-6 font-bold"
                aria-label={`believe ${sourceName(cell.source)} on ${claimFieldName(field)}`}
                onClick={() => onBelieve(id)}
              >
                believe
              </button>
            )}
          </td>
        );
      })}
    </tr>
  );
}
