import { USE_LIMIT } from '../need/index.ts';
import type { Advice, NeedFault, WorkingSet } from '../need/index.ts';
import { decimals, exhausted } from '../units/index.ts';
import { gb } from './words.ts';
import type { Explanation } from './words.ts';

/** GiB to a tenth: what stands on the page beside it. */
const gbText = (gib: number) => gb(Number(gib.toFixed(1)));
/** GiB as one says it to a customer: whole above ten. */
const about = (gib: number) => gb(Number(gib >= 10 ? gib.toFixed(0) : gib.toFixed(1)));

/** The working set as a figure or a range: `12.5 GB`, `9 to 14 GB`. */
export function workingSetText({ low, high, from }: WorkingSet): string {
  if (Math.abs(high - low) < 0.05)
    return from === 'peak, paging' ? `${gbText(low)} or more` : gbText(low);
  return `${decimals(Number(low.toFixed(1)))} to ${gbText(high)}`;
}

/**
 * What the customer is told, in one or two sentences.
 *
 * @param usable - GiB the machine can use now; absent where it is not known
 */
export function needSentence(work: WorkingSet, usable: number | undefined): string {
  const opening =
    work.from === 'estimate'
      ? `With everything open you need about ${about(work.high)}`
      : work.from === 'peak'
        ? `At its busiest your work used ${about(work.need)}`
        : `Your work wanted more than ${about(work.low)}`;
  if (usable === undefined) return `${opening}.`;
  const have = `${opening}; you have ${about(usable)}`;
  if (usable < work.need || work.from === 'peak, paging')
    return `${have}. The drive is standing in for memory, and that is what you wait for.`;
  return `${have}. Memory is not what you wait for.`;
}

/** An answer the need gives, in words. */
export function explainAdvice(advice: Advice): Explanation {
  switch (advice.type) {
    case 'short':
      return {
        title: 'Memory is short',
        why: advice.paging
          ? `It was paging: ${gbText(advice.usable)} is usable, and the work wanted more.`
          : `${gbText(advice.usable)} is usable; the work with its margin wants ${gbText(advice.wanted)}.`,
        mend: advice.isCapped
          ? 'Mend what is named above first; more modules alone do not help.'
          : 'Plan more capacity: this is the cliff, and every step over it is felt.',
      };
    case 'tight':
      return {
        title: 'It fits, without room to grow',
        why: `${gbText(advice.usable)} is usable and the work keeps ${gbText(advice.need)}; with the margin it would be ${gbText(advice.wanted)}.`,
        mend: 'Plan more if the work grows, or accept a smaller margin.',
      };
    case 'enough':
      return {
        title: 'There is enough already',
        why: `${gbText(advice.usable)} is usable and ${gbText(advice.wanted)} is wanted, margin included. More becomes file cache: smoother, not faster.`,
        mend: 'Look at the rate and the channels instead, or at what else is slow.',
      };
    case 'drive-first':
      return {
        title: 'The drive first',
        why: 'Memory suffices and the drive turns: starting and loading wait for it.',
        mend: 'Offer a solid-state drive before any module.',
      };
    case 'drive-hurts':
      return {
        title: 'A spinning drive makes paging worse',
        why: 'Every page fetched from it costs about a hundredth of a second.',
        mend: 'If the budget allows one thing only, more memory ends the paging; a solid-state drive softens it.',
      };
    case 'graphics-memory':
      return {
        title: 'Graphics memory is another matter',
        why: 'This work is short of the memory on its graphics card; no module here adds any.',
        mend: 'Say so before quoting modules. Built-in graphics does gain from a second channel.',
      };
    case 'system-first':
      return {
        title: 'The operating system first',
        why: `It uses ${gbText(advice.limit)} at most, and ${gbText(advice.wanted)} is wanted: more modules would lie idle.`,
        mend: 'Offer a 64-bit system, or stay below its limit.',
      };
    case 'beyond-machine':
      return {
        title: 'More than this machine can hold',
        why: advice.soldered
          ? `Its ${gbText(advice.most)} are soldered; nothing can be added, and ${gbText(advice.wanted)} is wanted.`
          : `It holds ${gbText(advice.most)} at most, and ${gbText(advice.wanted)} is wanted.`,
        mend: advice.soldered
          ? 'Say so plainly: lighter work, or another machine.'
          : 'Plan the most it takes, and say what will still not fit.',
      };
    case 'measure-peak':
      return {
        title: 'An estimate, not a measurement',
        why: 'The figures are usual ones, not this customer’s.',
        mend: 'Read the peak off the machine at work; it outranks any estimate.',
      };
    default:
      return exhausted(advice);
  }
}

/** A slip in the figures of a need. */
export function explainNeedFault({ type }: NeedFault): Explanation {
  switch (type) {
    case 'negative':
      return {
        title: 'Negative value',
        why: 'A use is 0 GB or more.',
        mend: 'Correct the figure.',
      };
    case 'reversed':
      return {
        title: 'The range runs backwards',
        why: 'The low end is above the high end.',
        mend: 'Swap the two values.',
      };
    case 'too-large':
      return {
        title: 'Too large',
        why: `A use is ${USE_LIMIT} GB or less.`,
        mend: 'Type GB, not MB.',
      };
    default:
      return exhausted(type);
  }
}
