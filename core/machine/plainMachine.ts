import { railsOf } from '../memory/index.ts';
import type { FormFactor, Generation } from '../memory/index.ts';
import { gib } from '../units/index.ts';
import type { Access, Machine, MachineKind, Slot } from './machine.ts';

/** Nobody has opened one yet. */
export const UNKNOWN_ACCESS: Access = {
  cover: 'unknown',
  screws: 'unknown',
  hiddenFasteners: 'unknown',
  battery: 'unknown',
  memoryAt: 'unknown',
};

/** The few things one can see at once on any machine. */
export interface PlainMachine {
  readonly name: string;
  readonly kind: MachineKind;
  readonly generation: Generation;
  readonly formFactor: FormFactor;
  readonly channels: number;
  readonly slotsPerChannel: number;
}

/**
 * A machine of which only the plainly visible is known; every other trait is `unknown`. Slots
 * are named by channel and number (A1, A2, B1 …) until the printed names are entered.
 */
export function plainMachine(seen: PlainMachine): Machine {
  const { name, kind, generation, formFactor } = seen;
  const channels = Array.from({ length: seen.channels }, (_, at) => String.fromCharCode(65 + at));
  const slots = channels.flatMap((channel) =>
    Array.from({ length: seen.slotsPerChannel }, (_, at): Slot => {
      const printedName = `${channel}${at + 1}`;
      return { id: printedName.toLowerCase(), printedName, channels: [channel] };
    }),
  );
  return {
    ...{ name, kind, formFactor, channels, slots },
    generations: [generation],
    bufferings: ['unbuffered'],
    ecc: 'unknown',
    channelBits: 64,
    soldered: [],
    fillOrder: 'unknown',
    requiredFirstSlot: 'unknown',
    maxPerSlot: 'unknown',
    maxTotal: 'unknown',
    maximaFrom: 'unknown',
    maxRanksPerModule: 'unknown',
    maxRanksPerChannel: 'unknown',
    voltagesMv: railsOf(generation, true),
    nonBinary: 'unknown',
    rateTable: [],
    controllerLimit: 'unknown',
    firmwareCap: 'unknown',
    profiles: { support: 'unknown', ceiling: 'unknown' },
    unevenChannels: 'unknown',
    sync: { limit: 'unknown', fabricClock: 'unknown' },
    graphicsCarveOut: { low: gib(0), high: gib(0) },
    osLimit: 'none',
    verifiedParts: 'unknown',
    access: UNKNOWN_ACCESS,
  };
}
