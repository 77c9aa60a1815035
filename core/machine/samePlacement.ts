import { sameModule } from '../memory/index.ts';
import type { Placement } from './machine.ts';

/** Whether the same modules sit in the same slots, in whatever order they were written down. */
export function samePlacement(a: Placement, b: Placement): boolean {
  return [...Object.keys(a), ...Object.keys(b)].every((id) => sameModule(a[id], b[id]));
}
