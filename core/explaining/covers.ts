import { exhausted } from '../units/index.ts';
import type { CoverFault } from '../fitting/index.ts';
import type { Explanation } from './words.ts';

/** What is wrong with a cover map. */
export function explainCoverFault(fault: CoverFault): Explanation {
  switch (fault.type) {
    case 'outside':
      return {
        title: `Part ${fault.at + 1} lies outside the cover`,
        why: 'Its place is beyond the edge.',
        mend: 'Move it in, or make the cover larger.',
      };
    case 'same spot':
      return {
        title: `Parts ${fault.other + 1} and ${fault.at + 1} lie on the same spot`,
        why: 'One part was marked twice.',
        mend: 'Remove one of them.',
      };
    case 'same id':
      return {
        title: `Part ${fault.at + 1} has another part’s id`,
        why: 'Each part needs its own.',
        mend: 'Remove it and mark it again.',
      };
    default:
      return exhausted(fault);
  }
}
