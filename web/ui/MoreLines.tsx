import { Button } from './Button.tsx';

/** The most lines a page of a list asks for; beyond them one searches. */
export const SHOWN_MOST = 200;

interface MoreLinesProps {
  readonly shown: number;
  readonly total: number;
  /** From here on the total means that many or more. */
  readonly counted?: number;
  readonly onMore: () => void;
  /** All lines are here already: they are shown page by page, however many. */
  readonly isAllHere?: boolean;
}

/** Under a list that holds more than it shows: how much, and the way to the rest. */
export function MoreLines({
  shown,
  total,
  counted = Infinity,
  onMore,
  isAllHere = false,
}: MoreLinesProps) {
  if (shown >= total) return null;
  return (
    <p className="mt-3">
      <span className="text-muted">
        {shown} of {total >= counted ? `${total} or more` : total} shown.
      </span>{' '}
      {isAllHere || shown < SHOWN_MOST ? (
        <Button look="quiet" onClick={onMore}>
          Show more
        </Button>
      ) : (
        'Search to find the others.'
      )}
    </p>
  );
}
