import { EXAMPLE_LABEL } from '../memory/index.ts';
import type { LabelFinding } from '../memory/index.ts';
import { exhausted } from '../units/index.ts';
import { gb, list } from './words.ts';
import type { Explanation } from './words.ts';

const example = `For example: ${EXAMPLE_LABEL}`;

/** A finding of the label reader in words. */
export function explainFinding(finding: LabelFinding): Explanation {
  switch (finding.type) {
    case 'nothing-typed':
      return { title: 'Nothing typed yet', why: 'The label is empty.', mend: example };
    case 'too-long':
      return {
        title: 'Too long for a label',
        why: `${finding.length} characters; a label has ${finding.limit} at most.`,
        mend: 'Type the one line that names size, generation and rate.',
      };
    case 'missing':
      return finding.field === 'capacity'
        ? {
            title: 'The size is missing',
            why: 'No capacity was found.',
            mend: `Add it, as in 16GB. ${example}`,
          }
        : {
            title: 'The generation is missing',
            why: 'Nothing says DDR3, DDR4, PC4 or the like.',
            mend: `Add it, as in DDR4-2400 or PC4-2400T. ${example}`,
          };
    case 'impossible-capacity':
      return {
        title: `There is no ${gb(finding.capacity)} module of this generation`,
        why: 'Modules come in powers of two, from DDR5 on also 12, 24, 48 and 96 GB.',
        mend: `Look again: ${list(finding.nearest.map(gb), 'or')}?`,
      };
    case 'impossible-rate':
      return {
        title: `${finding.rate} is no memory rate`,
        why: 'Rates lie between 100 and 20,000 MT/s.',
        mend: 'Look at the label again.',
      };
    case 'conflict':
      return {
        title: `The label contradicts itself on ${finding.field}`,
        why: `It says ${finding.first} and ${finding.second}.`,
        mend: 'Keep the one that is printed.',
      };
    case 'assumed':
      return {
        title: `Assumed: ${finding.value}`,
        why: `The label does not state the ${finding.field}.`,
        mend: 'Add it if you know better.',
      };
    case 'profile-without-cl':
      return {
        title: `${finding.rate} MT/s is an overclock profile without timings`,
        why: 'It is no standard rate, or its voltage is raised, and no CL is printed.',
        mend: 'Add the CL, as in CL18, to plan with the profile.',
      };
    case 'not-understood':
      return {
        title: `Not used: ${finding.text}`,
        why: 'This part of the label means nothing to the reader.',
        mend: 'Leave it, or correct a slip.',
      };
    default:
      return exhausted(finding);
  }
}
