import type { Machine, Setting } from '../machine/index.ts';
import { unknownTraits } from '../machine/index.ts';
import { generationTraits } from '../memory/index.ts';
import { exactRate, gib } from '../units/index.ts';
import { assess } from './assess.ts';
import type { Minor, Plan, PlanQuery, PlannedUnit } from './query.ts';
import { runToEnd } from './whyNot.ts';
import { withVerified } from './supply.ts';

/** Something that, if it were otherwise, would change the recommendation. */
export type Tipping =
  | {
      readonly type: 'price';
      readonly offerId: string;
      readonly now: Minor;
      /** Above this price of one pack another plan is cheaper; absent = whatever it costs. */
      readonly upTo: Minor | undefined;
      readonly instead: Plan | undefined;
    }
  | {
      readonly type: 'need';
      /** GiB with margin. */
      readonly now: number | undefined;
      /** The plan serves needs up to this, GiB with margin. */
      readonly upTo: number;
      /** A cheaper plan would do below this need. */
      readonly cheaperBelow: { readonly need: number; readonly plan: Plan } | undefined;
    }
  | {
      readonly type: 'trait';
      readonly trait: keyof Machine;
      readonly value: string;
      /** The cheapest plan if the trait has this value; absent where nothing is admitted. */
      readonly instead: Plan | undefined;
    };

/**
 * What would have to be otherwise for another plan to be the cheapest that meets the need. Each
 * question is a search of its own, so this is work for a worker.
 */
export function* findTippingPoints(query: PlanQuery, chosen: Plan): Generator<Tipping> {
  const machine = withVerified(query.machine, query.offers);
  const cheapest = (changed: PlanQuery) => runToEnd(changed).plans[0];
  for (const { offerId, packs } of chosen.purchases) {
    const price = query.offers.find(({ id }) => id === offerId)?.price;
    if (typeof price !== 'number') continue;
    const offers = query.offers.filter(({ id }) => id !== offerId);
    const instead = cheapest({ ...query, machine, offers });
    const spare = instead && (instead.worth.cost - chosen.worth.cost) / packs;
    const upTo = spare === undefined ? undefined : Math.floor(price + Math.max(0, spare));
    yield { type: 'price', offerId, now: price, upTo, instead };
  }
  yield needTipping(query, chosen);
  for (const { trait } of unknownTraits(machine))
    for (const [value, changed] of traitValues(machine, trait)) {
      const full = { ...query, machine: changed };
      const holds = admitted(full, chosen.units, chosen.setting);
      const instead = cheapest(full);
      if (holds && instead?.worth.cost === chosen.worth.cost) continue;
      yield { type: 'trait', trait, value, instead };
    }
}

function admitted(query: PlanQuery, units: readonly PlannedUnit[], setting: Setting): boolean {
  return assess(query, units, setting).objections.length === 0;
}

function needTipping(query: PlanQuery, chosen: Plan): Tipping {
  let low = 0;
  let high = chosen.worth.usable;
  // Whether a school admits uneven channels turns on the need, so the limit is looked for.
  for (let step = 0; step < 24; step++) {
    const middle = (low + high) / 2;
    if (admitted({ ...query, need: middle }, chosen.units, chosen.setting)) low = middle;
    else high = middle;
  }
  const upTo = admitted({ ...query, need: chosen.worth.usable }, chosen.units, chosen.setting)
    ? chosen.worth.usable
    : low;
  const cheaper = runToEnd({ ...query, need: undefined })
    .plans.filter((plan) => plan.worth.cost < chosen.worth.cost)
    .sort((a, b) => b.worth.usable - a.worth.usable)[0];
  return {
    type: 'need',
    now: query.need,
    upTo,
    cheaperBelow: cheaper && { need: cheaper.worth.usable, plan: cheaper },
  };
}

/** What an unknown trait might turn out to be, in words, with the machine as it then were. */
function traitValues(machine: Machine, trait: keyof Machine): [string, Machine][] {
  const with_ = (value: string, change: Partial<Machine>): [string, Machine] => [
    value,
    { ...machine, ...change },
  ];
  const generation = machine.generations[0];
  switch (trait) {
    case 'unevenChannels':
      return [
        with_('side by side as far as they match', { unevenChannels: 'zone' }),
        with_('all of it single-channel', { unevenChannels: 'single' }),
      ];
    case 'nonBinary':
      return [with_('no', { nonBinary: 'no' })];
    case 'profiles':
      return [with_('no', { profiles: { support: 'no', ceiling: 'none' } })];
    case 'maxPerSlot':
      return [8, 16, 32].map((size) => with_(`${size} GB`, { maxPerSlot: gib(size) }));
    case 'maxTotal':
      return [16, 32, 64].map((size) => with_(`${size} GB`, { maxTotal: gib(size) }));
    case 'requiredFirstSlot':
      return machine.slots.map(({ id, printedName }) =>
        with_(printedName, { requiredFirstSlot: id }),
      );
    case 'maxRanksPerChannel':
      return [2, 4].map((ranks) => with_(String(ranks), { maxRanksPerChannel: ranks }));
    case 'controllerLimit':
      return generation
        ? generationTraits(generation)
            .standardRates.slice(-4, -1)
            .map((rate) => with_(`${Math.round(exactRate(rate))} MT/s`, { controllerLimit: rate }))
        : [];
    default:
      return [];
  }
}
