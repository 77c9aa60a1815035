import type { RunFault, RunsTableFault, ShownRate } from '../proving/index.ts';
import { METRICS } from '../proving/index.ts';
import { exhausted } from '../units/index.ts';
import { count, list } from './words.ts';
import type { Explanation } from './words.ts';

/** What is wrong with typed runs, in words. */
export function explainRunFault(fault: RunFault): Explanation {
  switch (fault.type) {
    case 'no-runs':
      return {
        title: 'No runs',
        why: 'Nothing was typed.',
        mend: 'Type one figure a run: 31.2 30.9 31.4',
      };
    case 'not-a-number':
      return {
        title: `“${fault.text}” is not a number`,
        why: 'Runs are plain numbers.',
        mend: 'Separate runs by spaces: 31.2 30.9 31.4',
      };
    case 'not-positive':
      return {
        title: `${fault.value} cannot be a run: a run is more than 0`,
        why: 'A run is more than 0.',
        mend: 'Remove it or correct it.',
      };
    case 'too-large':
      return {
        title: `${fault.value} ${fault.unit} is not plausible`,
        why: `No machine here passes ${fault.most} ${fault.unit}.`,
        mend: 'Check the unit: a figure in MB/s is 1000 times larger.',
      };
    case 'too-many':
      return {
        title: `${fault.count} runs`,
        why: `${fault.most} are the most.`,
        mend: 'Keep the steadiest stretch.',
      };
    case 'all-warm-up':
      return {
        title: 'Nothing is left after the warm-up',
        why: `${fault.warmUp} of ${count(fault.count, 'run')} are dropped.`,
        mend: 'Drop fewer, or add runs.',
      };
    default:
      return exhausted(fault);
  }
}

/** What is wrong with a row of a table of runs, in words. */
export function explainRunsTableFault(fault: RunsTableFault): Explanation {
  const at = `Row ${fault.row}`;
  switch (fault.type) {
    case 'column-missing':
      return {
        title: `There is no column “${fault.column}”`,
        why: 'The first row names the columns.',
        mend: 'Name at least test and runs, as in the table that Tembrix writes.',
      };
    case 'unknown-measure':
      return {
        title: `${at}: “${fault.text}” is nothing measured here`,
        why: 'The column says what was measured.',
        mend: `Use ${list(METRICS)}.`,
      };
    case 'no-test':
      return {
        title: `${at}: the test has no name`,
        why: 'Runs are compared by test.',
        mend: 'Name it.',
      };
    case 'no-sense':
      return {
        title: `${at}: it is not said which way the score counts`,
        why: 'Some scores are better higher, some lower.',
        mend: 'Write higher or lower into the column “better”.',
      };
    case 'wrong-unit':
      return {
        title: `${at}: ${fault.text} instead of ${fault.wanted}`,
        why: 'Figures of another unit would be read wrongly.',
        mend: `Convert them to ${fault.wanted}.`,
      };
    case 'runs': {
      const { title, why, mend } = explainRunFault(fault.fault);
      return { title: `${at}: ${title}`, why, ...(mend ? { mend } : {}) };
    }
    default:
      return exhausted(fault);
  }
}

/** A rate read off a screen, in words. */
export function explainShownRate(shown: ShownRate): Explanation {
  if (shown.type === 'no rate')
    return {
      title: 'No memory rate',
      why: `${shown.reading} lies outside 100 to 20,000.`,
      mend: 'Type the figure the screen shows, in MHz or MT/s.',
    };
  const { reading, expected, taken } = shown;
  const isClock = taken.readAs === 'clock';
  const read = isClock
    ? `${reading} MHz is the clock; two transfers a clock make ${taken.rate} MT/s.`
    : `${reading} was taken as the data rate, MT/s.`;
  const unsure = taken.ambiguous
    ? ' It would also fit as a data rate: check the unit on the screen.'
    : '';
  if (shown.type === 'as expected')
    return {
      title: `${taken.rate} MT/s, as expected`,
      why: `${read}${isClock ? ' That is not half speed.' : ''}${unsure}`,
    };
  if (shown.type === 'slower')
    return {
      title: `${taken.rate} MT/s, slower than ${expected}`,
      why: `${read}${unsure}`,
      mend: 'Look at the firmware: profile off, or its memory setting fixed lower. Then reseat.',
    };
  return {
    title: `${taken.rate} MT/s, faster than ${expected}`,
    why: `${read} The machine or a module is described with a lower limit than it has.`,
    mend: 'Correct the machine or the label.',
  };
}
