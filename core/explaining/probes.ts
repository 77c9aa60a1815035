import type { CarryFault, ProbeEssence, ProbeMark } from '../proving/index.ts';
import { median } from '../proving/index.ts';
import { exhausted } from '../units/index.ts';
import { figure } from './words.ts';
import type { Explanation } from './words.ts';

/** What a mark of the measuring page means for whoever reads the figures. */
export const PROBE_MARK_WORDS: Readonly<Record<ProbeMark, string>> = {
  hidden: 'The page was out of sight for a while; what it timed then was taken again.',
  slowing:
    'Slower at the end than at the start: heat, or another program. Let it cool and measure again.',
  battery: 'On battery: many machines slow down. Compare only with a result on battery.',
  noisy:
    'The figures differ from moment to moment, even after a repeat. Close other programs and measure again.',
  small:
    'The browser gave little memory, so caches may have helped. Compare only with a result that says the same.',
  'no plateau':
    'More threads still brought more, so memory was perhaps not the limit: it is at least this fast.',
  simulated: 'Simulated: no machine was measured.',
};

/** A result of the measuring page in one line. */
export function probeText({ read, reply, threads, engine }: ProbeEssence): string {
  const plain = engine === 'plain arrays' ? ', plain arrays' : '';
  return `read ${figure(median(read))} GB/s, reply ${figure(median(reply))} ns, ${threads} threads${plain}`;
}

/** What is wrong with a carry code as typed, in words. */
export function explainCarryFault(fault: CarryFault): Explanation {
  switch (fault.type) {
    case 'wrong-length':
      return {
        title: `${fault.count} characters instead of ${fault.wanted}`,
        why: 'A code has eight groups of four.',
        mend: 'Compare it with the measuring page group by group.',
      };
    case 'strange-letter':
      return {
        title: `“${fault.letter}” in group ${fault.group} is no character of a code`,
        why: 'Codes are made of digits and capital letters, without I, L, O and U.',
        mend: 'Compare that group with the measuring page.',
      };
    case 'checksum':
      return {
        title: 'The code does not add up',
        why: 'Its last group is a checksum over the others, so a character is mistyped somewhere.',
        mend: 'Compare it with the measuring page group by group.',
      };
    case 'newer-version':
      return {
        title: 'The code is of another version',
        why: 'The measuring page that made it is newer or older than this bench.',
        mend: 'Measure with this bench’s own page.',
      };
    default:
      return exhausted(fault);
  }
}
