import { generationTraits } from '../memory/index.ts';
import type { Machine } from './machine.ts';

/** A trait nobody has established, and how much a plan depends on it. */
export interface UnknownTrait {
  readonly trait: keyof Machine;
  /** 3 = can stop a plan or waste its money, 2 = changes what runs, 1 = changes a caution. */
  readonly weight: 1 | 2 | 3;
}

type Weigh = (machine: Machine) => UnknownTrait['weight'] | 0;

const ALWAYS =
  (weight: UnknownTrait['weight']): Weigh =>
  () =>
    weight;

/** How much each trait matters when unknown; 0 where the machine leaves nothing to ask. */
const WEIGHTS: Partial<Record<keyof Machine, Weigh>> = {
  maxPerSlot: ALWAYS(3),
  requiredFirstSlot: ({ slots }) => (slots.length > 1 ? 3 : 0),
  nonBinary: ({ generations }) =>
    generations.some((one) => generationTraits(one).oddSizes.length > 0) ? 3 : 1,
  maxTotal: ({ maxPerSlot }) => (maxPerSlot === 'unknown' ? 3 : 2),
  controllerLimit: ALWAYS(2),
  unevenChannels: ({ channels }) => (channels.length > 1 ? 2 : 0),
  fillOrder: ({ slots, channels }) => (slots.length > channels.length ? 2 : 0),
  ecc: ({ bufferings }) => (bufferings.includes('registered') ? 3 : 1),
  firmwareCap: ALWAYS(2),
  profiles: ALWAYS(2),
  rateTable: ({ slots, channels }) => (slots.length > channels.length ? 2 : 0),
  maxRanksPerChannel: ({ slots, channels }) => (slots.length > channels.length ? 2 : 0),
  maxRanksPerModule: ALWAYS(1),
  sync: ALWAYS(1),
  verifiedParts: ALWAYS(1),
  // A figure nobody vouches for; without one there is nothing to vouch for.
  maximaFrom: ({ maxPerSlot, maxTotal }) =>
    maxPerSlot === 'unknown' && maxTotal === 'unknown' ? 0 : 1,
  access: ALWAYS(1),
};

/** Traits that are not known, by how much they matter to a plan. Soldered machines have none to ask. */
export function unknownTraits(machine: Machine): UnknownTrait[] {
  if (machine.slots.length === 0) return [];
  return (Object.keys(WEIGHTS) as (keyof Machine)[])
    .flatMap((trait): UnknownTrait[] => {
      if (!isUnknown(machine, trait)) return [];
      const weight = WEIGHTS[trait]?.(machine) ?? 0;
      return weight === 0 ? [] : [{ trait, weight }];
    })
    .sort((a, b) => b.weight - a.weight);
}

function isUnknown(machine: Machine, trait: keyof Machine): boolean {
  const value = machine[trait];
  if (trait === 'rateTable') return machine.rateTable.length === 0;
  if (trait === 'profiles') return machine.profiles.support === 'unknown';
  if (trait === 'access') return machine.access.cover === 'unknown';
  if (trait === 'sync') return machine.sync.limit === 'unknown';
  return value === 'unknown';
}
