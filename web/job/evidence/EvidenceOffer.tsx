import { count, gb, list } from '#core/explaining';
import { samePlacement } from '#core/machine';
import type { Placement } from '#core/machine';
import { sumGib } from '#core/units';
import { useShortcuts } from '../../app/keys.ts';
import { Button } from '../../ui/Button.tsx';
import type { PlacementBoard } from '../../visuals/usePlacementBoard.ts';
import { countOpen } from './QuestionsSheet.tsx';
import type { EvidenceState } from './useEvidence.ts';

interface EvidenceOfferProps {
  readonly evidence: EvidenceState;
  readonly board: PlacementBoard;
}

const filled = (placement: Placement) =>
  Object.entries(placement).filter(([, module]) => module !== undefined);

/** Whether the board does not yet show what the evidence says. */
export function isEvidenceOffered({ reconciled }: EvidenceState, board: PlacementBoard): boolean {
  const { placement } = reconciled;
  return filled(placement).length > 0 && !samePlacement(placement, board.present.placement);
}

/** One line above the board while it does not show what the evidence says. */
export function EvidenceOffer({ evidence, board }: EvidenceOfferProps) {
  const { machine, reconciled } = evidence;
  const { placement } = reconciled;
  const isOffered = isEvidenceOffered(evidence, board);
  const take = () => board.actions.take(placement);
  useShortcuts(
    isOffered ? [{ keys: 'E', does: 'Put what the evidence says into the slots', run: take }] : [],
  );
  if (!isOffered) return null;
  const modules = filled(placement);
  const names = modules.map(
    ([id]) => machine.slots.find((slot) => slot.id === id)?.printedName ?? id,
  );
  const total = sumGib(modules.map(([, module]) => module?.capacity ?? 0));
  const open = countOpen(reconciled.questions);
  const places = names.length > 4 ? count(names.length, 'slot') : list(names);
  const onBoard = filled(board.present.placement);
  const isCloser =
    onBoard.length === modules.length &&
    modules.every(([id, module]) => board.present.placement[id]?.capacity === module?.capacity);
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-copper-wash p-3">
      <p className="min-w-60 grow basis-0">
        <b>
          {isCloser
            ? `The evidence describes ${places} more closely than the board does.`
            : `The evidence gives ${gb(total)} in ${places}.`}
        </b>{' '}
        {open > 0 &&
          `${count(open, 'question')} still open; conflicts are settled by trust until you decide.`}
      </p>
      <Button look="main" keys="E" onClick={take}>
        Put into the slots
      </Button>
    </div>
  );
}
