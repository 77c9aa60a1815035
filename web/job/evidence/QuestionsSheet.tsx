import { useState } from 'react';
import { Link } from 'react-router';
import {
  claimFieldName,
  claimText,
  count,
  explainQuestion,
  list,
  slotNames,
  sourceName,
} from '#core/explaining';
import type { SlotId } from '#core/machine';
import type { Assigned, Question } from '#core/reconciling';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { AsideSheet } from '../StepLayout.tsx';
import type { EvidenceState } from './useEvidence.ts';

interface QuestionsSheetProps {
  readonly evidence: EvidenceState;
  readonly machineId: string;
  readonly isClosed: boolean;
  /** The technician wants to type the label of a slot. */
  readonly onTypeLabel: (slotId: SlotId) => void;
}

/** Questions as they are shown: all conflicts of a slot are one. */
export function countOpen(questions: readonly Question[]): number {
  const conflicts = questions.flatMap((one) => (one.type === 'conflict' ? [one.slotId] : []));
  return questions.length - conflicts.length + new Set(conflicts).size;
}

type Conflict = Extract<Question, { type: 'conflict' }>;
const SHOWN = 6;

/** What only a person can settle, with the means to settle it. Conflicts first. */
export function QuestionsSheet(props: QuestionsSheetProps) {
  const { reconciled } = props.evidence;
  const [all, setAll] = useState(false);
  const conflicts = reconciled.questions.filter((one) => one.type === 'conflict');
  const others = reconciled.questions.filter((one) => one.type !== 'conflict');
  const slots = [...new Set(conflicts.map(({ slotId }) => slotId))];
  const items = [
    ...slots.map((slotId) => (
      <ConflictItem
        key={`conflict ${slotId}`}
        {...props}
        conflicts={conflicts.filter((one) => one.slotId === slotId)}
      />
    )),
    ...others.map((question, at) => <OtherItem key={at} {...props} question={question} />),
  ];
  if (items.length === 0) return null;
  return (
    <AsideSheet title="Still open" hint={count(items.length, 'question')}>
      <ul className="grid gap-3">{all ? items : items.slice(0, SHOWN)}</ul>
      {items.length > SHOWN && !all && (
        <Button look="quiet" onClick={() => setAll(true)}>
          Show {items.length - SHOWN} more
        </Button>
      )}
    </AsideSheet>
  );
}

interface ItemProps {
  readonly kind: 'stop' | 'caution';
  readonly title: string;
  readonly why: string;
  readonly children?: React.ReactNode;
}

function Item({ kind, title, why, children }: ItemProps) {
  return (
    <li className="grid gap-1 border-t border-line pt-2 first:border-0 first:pt-0">
      <p className="flex items-start gap-2 font-bold">
        <Mark kind={kind} />
        <span className="min-w-0 break-words">{title}</span>
      </p>
      <p className="text-aside break-words">{why}</p>
      {children && <div className="flex flex-wrap items-center gap-2">{children}</div>}
    </li>
  );
}

/** All that differs about one slot; one press believes one source on all of it. */
function ConflictItem({
  evidence,
  conflicts,
  isClosed,
}: QuestionsSheetProps & { readonly conflicts: readonly Conflict[] }) {
  const [first] = conflicts;
  if (!first) return null;
  const { slotId } = first;
  const nameOf = slotNames(evidence.machine);
  const alone = explainQuestion(first, nameOf);
  const sources = new Map(
    conflicts.flatMap(({ row }) =>
      row.cells.map((cell) => [cell.evidenceId, cell.source] as const),
    ),
  );
  const fieldsOf = (id: string) =>
    conflicts.flatMap(({ row }) =>
      row.cells.some((cell) => cell.evidenceId === id) ? [row.field] : [],
    );
  const saysOf = (id: string) =>
    conflicts
      .flatMap(({ row }) => {
        const cell = row.cells.find(({ evidenceId }) => evidenceId === id);
        return cell ? [claimText(row.field, cell.shown)] : [];
      })
      .join(', ');
  const names = new Map(evidence.documents.map(({ record }) => [record.id, record.name]));
  const isTwice = (source: string) =>
    [...sources.values()].filter((one) => one === source).length > 1;
  return (
    <Item
      kind="stop"
      title={
        conflicts.length === 1
          ? alone.title
          : `${nameOf(slotId)}: ${list(conflicts.map(({ row }) => claimFieldName(row.field)))} differ`
      }
      why={
        conflicts.length === 1
          ? `${alone.why} ${alone.mend ?? ''}`
          : `${alone.mend ?? ''} Until then ${sourceName(first.row.chosen.source)} is believed.`
      }
    >
      {[...sources].map(([id, source]) => (
        <Button
          key={id}
          disabled={isClosed}
          className="w-full text-left text-aside break-words"
          onClick={() => evidence.believe(slotId, fieldsOf(id), id)}
        >
          Believe {sourceName(source)}
          {isTwice(source) && ` (${names.get(id) ?? ''})`}:{' '}
          <span className="figure font-normal">{saysOf(id)}</span>
        </Button>
      ))}
    </Item>
  );
}

function OtherItem({
  evidence,
  question,
  machineId,
  isClosed,
  onTypeLabel,
}: QuestionsSheetProps & { readonly question: Exclude<Question, Conflict> }) {
  const { title, why, mend } = explainQuestion(question, slotNames(evidence.machine));
  const frame = { kind: 'caution', title, why } as const;
  if (isClosed) return <Item {...frame} />;
  switch (question.type) {
    case 'which-slot':
      return (
        <Item {...frame}>
          <SlotChoice evidence={evidence} assigned={question.stray.assigned} />
        </Item>
      );
    case 'unsure-slot':
      return (
        <Item {...frame}>
          <SlotChoice evidence={evidence} assigned={question.assigned} guess={question.slotId} />
        </Item>
      );
    case 'look':
    case 'unclear': {
      const { slotId } = question;
      return (
        <Item {...frame}>
          {question.type === 'look' && (
            <Button
              className="text-aside"
              onClick={() => evidence.addTyped('eyes', 'empty', [slotId], 'a look')}
            >
              It is empty
            </Button>
          )}
          <Button className="text-aside" onClick={() => onTypeLabel(slotId)}>
            Type its label
          </Button>
        </Item>
      );
    }
    case 'soldered-differs':
      return (
        <Item {...frame}>
          <Link className="link text-aside" to={`/machines/${machineId}`}>
            Correct its description
          </Link>
        </Item>
      );
    case 'swapped':
      return <Item {...frame} why={`${why} ${mend ?? ''}`} />;
  }
}

/**
 * Where something belongs. A place a firmware names is remembered for the machine; an image is
 * put to a slot of this job only.
 */
function SlotChoice({
  evidence,
  assigned,
  guess,
}: {
  readonly evidence: EvidenceState;
  readonly assigned: Assigned;
  readonly guess?: SlotId | undefined;
}) {
  const { machine } = evidence;
  const [chosen, setChosen] = useState<SlotId | 'none'>(guess ?? machine.slots[0]?.id ?? 'none');
  const isImage = assigned.evidence.source === 'spd';
  const what = assigned.claim.locator ?? assigned.evidence.name;
  const put = () => {
    if (isImage && chosen !== 'none')
      evidence.placeDevice(assigned.evidence.id, assigned.index, chosen);
    else evidence.rememberLocator(assigned.key, chosen);
  };
  return (
    <>
      <select
        aria-label={`Slot of ${what}`}
        className="input w-auto text-aside"
        value={chosen}
        onChange={({ target }) => setChosen(target.value)}
      >
        {machine.slots.map(({ id, printedName }) => (
          <option key={id} value={id}>
            {printedName}
          </option>
        ))}
        {!isImage && <option value="none">no such slot</option>}
      </select>
      <Button className="text-aside" onClick={put}>
        It belongs there
      </Button>
    </>
  );
}
