import type { Gain, Lever, Limit } from '../promising/index.ts';
import { gainRangeText } from './promises.ts';
import { figure, gb } from './words.ts';
import type { Explanation } from './words.ts';

interface LeverWords {
  readonly name: (to: number) => string;
  /** What it is and what it could be. */
  readonly change: (from: number, to: number) => string;
  /** Nothing better can be had here. */
  readonly here: (from: number) => string;
  readonly notKnown: string;
  readonly why: string;
}

const gib = (amount: number) => gb(Number(amount.toFixed(1)));
const ns = (time: number) => `${figure(time, 3)} ns`;

const LEVER_WORDS: Readonly<Record<Lever, LeverWords>> = {
  room: {
    name: () => 'Room',
    change: (from, to) => `${gib(from)} usable, ${gib(to)} needed`,
    here: (from) => `the need fits into ${gib(from)}`,
    notKnown: 'nobody said what the work needs',
    why: 'What does not fit spills to the drive. No speed of memory makes up for that.',
  },
  channels: {
    name: (to) => (to === 2 ? 'Second channel' : `All ${to} channels`),
    change: (from, to) => `${from} → ${to} side by side`,
    here: (from) =>
      from === 1 ? 'the board has only one channel' : 'all channels work side by side',
    notKnown: 'not known',
    why: 'Channels that work side by side carry that much more at once.',
  },
  rate: {
    name: () => 'Rate',
    change: (from, to) => `${from} → ${to} MT/s, same nanoseconds`,
    here: () => 'nothing on offer runs faster here',
    notKnown: 'not known',
    why: 'A higher rate carries more; a reply gets hardly quicker by it.',
  },
  timings: {
    name: () => 'CAS time',
    change: (from, to) => `${ns(from)} → ${ns(to)}`,
    here: () => 'nothing on offer is quicker here',
    notKnown: 'not known',
    why: 'The CAS time is a part of a reply only: controller and fabric take as long as ever.',
  },
  ranks: {
    name: () => 'Second rank',
    change: (from, to) => `${from} → ${to} ranks a channel`,
    here: () => 'two ranks a channel already',
    notKnown: 'ranks not known: read the label',
    why: 'More rows can be open at once; the bus carries no more.',
  },
  chips: {
    name: () => 'Chips of 8 bits',
    change: (from, to) => `${from} → ${to} bits a chip`,
    here: (from) => `chips of ${from} bits already`,
    notKnown: 'chip width not known: read the label',
    why: 'Chips of 16 bits have half the bank groups, so rows wait for one another more often.',
  },
};

/** What a limit is called. */
export const limitName = ({ lever, to }: Pick<Limit, 'lever' | 'to'>): string =>
  LEVER_WORDS[lever].name(to);

/** What it is and could be, or why there is nothing to gain. */
export function limitText({ lever, state, from, to }: Limit): string {
  const { change, here, notKnown } = LEVER_WORDS[lever];
  if (state === 'to gain') return change(from, to);
  return state === 'here' ? here(from) : notKnown;
}

/** `The profile alone brings 3200 MT/s.` */
export const profileAloneText = ({ byProfile }: Pick<Limit, 'byProfile'>): string | undefined =>
  byProfile && `The profile alone brings ${byProfile.to} MT/s.`;

/** Why changing this alone gives what it gives. */
export function explainLimit(limit: Limit, gain: Gain | undefined): Explanation {
  return {
    title: gain
      ? `${limitName(limit)}: ${gainRangeText(gain)} in ${gain.kind.short}`
      : limitName(limit),
    why: `${LEVER_WORDS[limit.lever].why} Changed alone: ${limitText(limit)}.`,
    source: 'Both sides simulated; docs/simulation.md',
  };
}

/** A limit in one line, as a quote prints it: `Second channel, 1 → 2 side by side: +15 to +39 % in packing; €43.00`. */
export function limitLine(limit: Limit, gain: Gain | undefined, cost: string | undefined): string {
  const given = gain ? `: ${gainRangeText(gain)} in ${gain.kind.short}` : '';
  const alone = profileAloneText(limit);
  return `${limitName(limit)}, ${limitText(limit)}${given}; ${cost ?? 'nothing on offer brings it'}${alone ? `. ${alone}` : ''}`;
}
