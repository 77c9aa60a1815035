import { useEffect, useState } from 'react';
import { isOwnWay } from '../app/baseQuery.ts';

interface Row {
  readonly id?: string;
  readonly version: number;
}

/**
 * A row as an edit of it began: it follows this tab’s own saves, and what others save meanwhile is met
 * when saving, with both sides, never slipped under what is being typed.
 *
 * @param isTouched - something is typed; while nothing is, others’ saves are followed too
 */
export function useSteady<T extends Row | undefined>(row: T, isTouched = true): T {
  const [held, setHeld] = useState(row);
  const follows =
    row !== undefined &&
    row !== held &&
    (held === undefined ||
      held.id !== row.id ||
      !isTouched ||
      isOwnWay(row.id ?? '', held.version, row.version));
  if (follows) setHeld(row);
  return follows ? row : held;
}

/**
 * The version a form’s content started from. A form nobody typed into is filled anew when the row
 * changes; see {@link useSteady}.
 */
export function useBase(row: Required<Row>, isTouched: boolean, fill: () => void): number {
  const { version } = useSteady(row, isTouched);
  const [filled, setFilled] = useState(version);
  useEffect(() => {
    if (version === filled) return;
    setFilled(version);
    if (!isTouched) fill();
  }, [version, filled, isTouched, fill]);
  return version;
}
