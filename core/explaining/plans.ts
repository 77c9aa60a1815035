import type { Machine } from '../machine/index.ts';
import { moduleSummary } from '../memory/index.ts';
import { isUntouched } from '../planning/index.ts';
import type {
  ChoiceKind,
  EmptyReason,
  Exclusion,
  Objection,
  Objective,
  Plan,
  PlanQuery,
  Tipping,
} from '../planning/index.ts';
import { explainBlocker } from './blockers.ts';
import { money } from './money.ts';
import { explainSchoolRow } from './schools.ts';
import { count, figure, gb, list, slotNames } from './words.ts';
import type { Explanation } from './words.ts';

/** What a named choice is called. */
const CHOICE_NAMES: Readonly<Record<ChoiceKind, string>> = {
  nothing: 'Leave it as it is',
  settings: 'Only switch the profile on',
  cheapest: 'Cheapest that meets the need',
  pair: 'Best pair for the money',
  changes: 'Fewest changes',
  fastest: 'Fastest',
  most: 'Most memory',
  room: 'Most room to grow',
};

/** The same where there is room for two words. */
export const CHOICE_SHORT: Readonly<Record<ChoiceKind, string>> = {
  nothing: 'as it is',
  settings: 'profile on',
  cheapest: 'cheapest',
  pair: 'best pair',
  changes: 'fewest changes',
  fastest: 'fastest',
  most: 'most memory',
  room: 'most room',
};

/** Why a choice carries its name. */
const CHOICE_WHY: Readonly<Record<ChoiceKind, string>> = {
  nothing: 'It meets the need, and nothing cheaper can.',
  settings:
    'The modules can run faster as they are; the firmware’s profile setting is all it takes.',
  cheapest: 'No plan that meets the need with its margin costs less.',
  pair: 'One kit or one part in every slot used, with the most bandwidth for the money.',
  changes: 'The fewest modules come, go or change places.',
  fastest: 'No plan has more bandwidth where the need reaches; of equals the cheapest.',
  most: 'No plan leaves more memory usable; of equals the cheapest.',
  room: 'Leaves the most slots free, and of those plans the most memory usable.',
};

/** The same where no need is stated that a plan could meet. */
const WITHOUT_NEED: Readonly<Partial<Record<ChoiceKind, { title: string; why: string }>>> = {
  nothing: { title: CHOICE_NAMES.nothing, why: 'No need is stated that it would not meet.' },
  cheapest: { title: 'Cheapest', why: 'No plan costs less; what has to be met is not stated.' },
  fastest: {
    title: CHOICE_NAMES.fastest,
    why: 'No plan has more bandwidth; of equals the cheapest.',
  },
};

/** What a plan is the best at, and by what measure. */
export function explainChoice(
  kind: ChoiceKind,
  isNeedStated: boolean,
): { readonly title: string; readonly why: string } {
  const usual = { title: CHOICE_NAMES[kind], why: CHOICE_WHY[kind] };
  return isNeedStated ? usual : (WITHOUT_NEED[kind] ?? usual);
}

/** Objectives as column heads, with their unit where they have one. */
export const OBJECTIVE_NAMES: Readonly<Record<Objective, string>> = {
  cost: 'Cost',
  usable: 'Usable, GB',
  bandwidth: 'Bandwidth at need, GB/s',
  grade: 'Match',
  displaced: 'Pulled',
  freeSlots: 'Free slots',
};

/** What is done, in one line: `Keep A2 and add 2 × 8 GB in B1 and B2 (16 GB)`. */
export function planText(plan: Plan, machine: Machine): string {
  if (isUntouched(plan))
    return plan.setting === 'profile' ? 'Change nothing but the profile setting' : 'Change nothing';
  const nameOf = slotNames(machine);
  const kept = plan.units.filter(({ source }) => source.type === 'kept');
  const fresh = new Map<string, { capacity: number; from: string; slots: string[] }>();
  for (const { slotId, module, source } of plan.units) {
    if (source.type === 'kept') continue;
    const from = source.type === 'drawer' ? ' from the drawer' : '';
    const known = fresh.get(`${module.capacity}${from}`);
    if (known) known.slots.push(nameOf(slotId));
    else
      fresh.set(`${module.capacity}${from}`, {
        ...{ capacity: module.capacity, from, slots: [nameOf(slotId)] },
      });
  }
  const parts = [
    ...(plan.pulled.length > 0 ? [`pull ${list(plan.pulled.map(nameOf))}`] : []),
    ...(kept.length > 0 ? [`keep ${list(kept.map(({ slotId }) => nameOf(slotId)))}`] : []),
    // Of several the size of one and of all: “8 GB in A2 and B2” could be either.
    ...[...fresh.values()].map(({ capacity, from, slots }) =>
      slots.length === 1
        ? `add ${gb(capacity)}${from} in ${list(slots)}`
        : `add ${slots.length} × ${gb(capacity)}${from} in ${list(slots)} (${gb(slots.length * capacity)})`,
    ),
    ...(plan.moved.length > 0 ? [`move ${count(plan.moved.length, 'module')}`] : []),
    ...(plan.setting === 'profile' ? ['profile on'] : []),
  ];
  const text = list(parts);
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Words that start a line, within a sentence; names of slots keep their letters. */
const inSentence = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** Why a plan is not admitted. */
export function explainObjection(
  objection: Objection,
  { machine, school }: PlanQuery,
  currency: string,
  nameOffer: (id: string) => string,
): Explanation[] {
  switch (objection.type) {
    case 'blocked':
      return objection.blockers.map((blocker) => explainBlocker(blocker, slotNames(machine)));
    case 'short':
      return [
        {
          title: `${gb(objection.usable)} usable, ${gb(Number(objection.need.toFixed(1)))} needed`,
          why: 'The need with its margin does not fit into what would be usable.',
          mend: 'Fit more, or lower the margin if the need is generous.',
        },
      ];
    case 'over-budget':
      return [
        {
          title: `${money(objection.cost - objection.budget, currency)} over the budget`,
          why: `It costs ${money(objection.cost, currency)}; the customer said ${money(objection.budget, currency)}.`,
          mend: 'Ask the customer, or take a plan within the budget.',
        },
      ];
    case 'refused':
      return objection.rows.map((row) => ({
        title: `The ${school} school refuses: ${row.question}`,
        why: `Judged so because ${explainSchoolRow(row)}.`,
        mend: 'Choose modules that match, or another school for this job.',
      }));
    case 'stock':
      return [
        {
          title: `${nameOffer(objection.offerId)}: ${count(objection.stock, 'pack')} in stock, ${objection.packs} wanted`,
          why: 'The supplier has fewer than the plan takes.',
          mend: 'Take another offer, or ask the supplier and correct the stock.',
        },
      ];
    case 'no-price':
      return [
        {
          title: `${nameOffer(objection.offerId)} has no price`,
          why: 'What is not for sale, or no longer in the catalogue, cannot be planned with.',
          mend: 'Enter its price in the catalogue.',
        },
      ];
    case 'setting':
      return [
        {
          title: `The job does not allow the ${objection.setting} setting`,
          why: 'The firmware setting is fixed for this job.',
        },
      ];
  }
}

/** What one plan has over another, objective by objective: `€ 5.00 cheaper, 8 GB more`. */
export function advantageText(better: Plan, worse: Plan, currency: string): string {
  const a = better.worth;
  const b = worse.worth;
  const parts: string[] = [];
  if (a.cost < b.cost) parts.push(`${money(b.cost - a.cost, currency)} cheaper`);
  if (a.usable > b.usable) parts.push(`${gb(a.usable - b.usable)} more usable`);
  if (a.bandwidth > b.bandwidth)
    parts.push(`${figure(a.bandwidth - b.bandwidth)} GB/s more at the need`);
  if (a.grade !== b.grade) parts.push(`${a.grade} instead of ${b.grade}`);
  if (a.displaced < b.displaced)
    parts.push(`${count(b.displaced - a.displaced, 'module')} fewer pulled`);
  if (a.freeSlots > b.freeSlots)
    parts.push(`${count(a.freeSlots - b.freeSlots, 'slot')} more left free`);
  return parts.length === 0 ? 'equal in everything' : list(parts);
}

/** Why another plan beats this one. */
export function explainBeaten(
  plan: Plan,
  by: Plan,
  machine: Machine,
  currency: string,
): Explanation {
  return {
    title: `Beaten by: ${inSentence(planText(by, machine))}`,
    why: `That plan is at least as good in all six objectives, and ${advantageText(by, plan, currency)}.`,
    mend: 'Take that plan, or tell it apart by something the search does not count, such as what is in stock today.',
    source: 'a plan is shown only when no other is at least as good in everything',
  };
}

/** Why something on offer takes no part. */
export function explainExclusion(exclusion: Exclusion, machine: Machine): Explanation[] {
  switch (exclusion.type) {
    case 'does-not-fit': {
      // Asked about alone, it has no slot yet.
      const nameOf = () => 'any slot';
      return exclusion.blockers.map((blocker) => explainBlocker(blocker, nameOf));
    }
    case 'no-price':
      return [
        {
          title: 'It has no price',
          why: 'A plan needs one to be weighed.',
          mend: 'Enter it in the catalogue.',
        },
      ];
    case 'no-stock':
      return [
        {
          title: 'None in stock',
          why: 'It cannot be had now.',
          mend: 'Correct the stock when it can.',
        },
      ];
    case 'suspect':
      return [
        {
          title: 'Marked suspect in the drawer',
          why: 'Something was odd about it, or a count did not find it.',
          mend: 'Test it and change its state.',
        },
      ];
    case 'faulty':
      return [
        {
          title: 'Marked faulty in the drawer',
          why: `It is not put into ${machine.name} or any other machine.`,
          mend: 'Test it and change its state, or hand it in for recycling.',
        },
      ];
  }
}

/** Why nothing at all is admitted. */
export function explainEmptyFront(
  { relax, plan }: EmptyReason,
  { machine, need, budget }: PlanQuery,
  currency: string,
): Explanation {
  const what = plan ? inSentence(planText(plan, machine)) : '';
  switch (relax) {
    case 'budget':
      return {
        title: `Nothing within ${money(budget ?? 0, currency)} meets the need`,
        why: `The cheapest plan that does costs ${money(plan?.worth.cost ?? 0, currency)}: ${what}.`,
        mend: 'Raise the budget with the customer, or lower the need.',
      };
    case 'need':
    case 'need and school':
      return {
        title: `Nothing reaches ${gb(Number((need ?? 0).toFixed(1)))} in this machine`,
        why: `The most that can be had is ${gb(plan?.worth.usable ?? 0)} usable: ${what}.`,
        mend: 'Offer that, with what it cannot do said; or lower the margin; or look at another machine.',
      };
    case 'school':
      return {
        title: 'The chosen school refuses every plan',
        why: `The lenient school would take: ${what}.`,
        mend: 'Add modules to the catalogue that match what is fitted or that the maker lists, or choose another school for this job.',
      };
    case 'nothing helps':
      return {
        title: 'Nothing on offer fits this machine',
        why: 'No module of the catalogue or the drawer gets past the machine’s own limits.',
        mend: 'Look at the nearest module and what excludes it, or add one that fits.',
      };
  }
}

/** What would have to be otherwise for another plan to win. */
export function explainTipping(
  tipping: Tipping,
  { machine }: PlanQuery,
  currency: string,
  nameOffer: (id: string) => string,
): Explanation {
  const other = (plan: Plan | undefined) =>
    plan
      ? `${inSentence(planText(plan, machine))}, ${money(plan.worth.cost, currency)}`
      : 'nothing that meets the need';
  switch (tipping.type) {
    case 'price': {
      const { upTo, now, offerId, instead } = tipping;
      const name = nameOffer(offerId);
      return {
        title:
          upTo === undefined
            ? `${name}: at any price`
            : `${name}: up to ${money(upTo, currency)} a pack, now ${money(now, currency)}`,
        why: `Without it the best would be ${other(instead)}.`,
      };
    }
    case 'need': {
      const { upTo, now, cheaperBelow } = tipping;
      const state = now === undefined ? 'not stated' : gb(Number(now.toFixed(1)));
      return {
        title: `The need: up to ${gb(Number(upTo.toFixed(1)))}, now ${state}`,
        why: cheaperBelow
          ? `Were it ${gb(Number(cheaperBelow.need.toFixed(1)))} or less, ${other(cheaperBelow.plan)} would do.`
          : 'No smaller need would make a cheaper plan do.',
        mend: 'Measure the peak at work where the need is an estimate.',
      };
    }
    case 'trait':
      return {
        title: `${TRAIT_WORDS[tipping.trait] ?? tipping.trait}: if ${tipping.value}`,
        why: `Nobody has established this yet. Then the best would be ${other(tipping.instead)}.`,
        mend: 'Look it up in the manual or find out at the bench before ordering.',
      };
  }
}

const TRAIT_WORDS: Readonly<Partial<Record<keyof Machine, string>>> = {
  unevenChannels: 'Uneven channels',
  nonBinary: '12, 24 and 48 GB modules work',
  profiles: 'Overclock profiles work',
  maxPerSlot: 'Maximum per slot',
  maxTotal: 'Most in all',
  requiredFirstSlot: 'Slot to be filled first',
  maxRanksPerChannel: 'Ranks a channel takes',
  controllerLimit: 'Controller limit',
};

/** A module as a quote or an order names it. */
export function partText(module: Parameters<typeof moduleSummary>[0], units: number): string {
  const pack = units > 1 ? `, pack of ${units}` : '';
  const part = module.partNumber === undefined ? '' : `, ${module.partNumber}`;
  return `${gb(module.capacity)} ${moduleSummary(module)} ${module.formFactor}${part}${pack}`;
}
