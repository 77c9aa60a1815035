import type { Cause } from './causes.ts';
import type { Check, Model } from './model.ts';

/** A check that was made and what came out; `unknown` where it could not be said. */
export interface Observation {
  readonly checkId: string;
  readonly outcome: string;
}

/** A cause and how likely it is after all that was seen. */
export interface Suspect {
  readonly cause: Cause;
  /** 0 to 1; all suspects sum to 1. */
  readonly chance: number;
}

/** What an answer would leave as likeliest. */
export interface Prospect {
  readonly outcome: string;
  readonly chance: number;
  readonly leading: Suspect;
}

/** A check worth making, and what it is worth. */
export interface Suggestion {
  readonly check: Check;
  /** Bits of doubt it takes away, on average. */
  readonly bits: number;
  /** What it costs, in minutes at the bench. */
  readonly minutes: number;
  readonly prospects: readonly Prospect[];
}

/** Observations that hardly go together, and the one to make again. */
export interface Contradiction {
  readonly recheck: Observation;
  readonly against: readonly Observation[];
  /** How likely that outcome was, given the others. */
  readonly chance: number;
}

/** Where fault-finding stands. */
export interface Diagnosis {
  /** Likeliest first. */
  readonly suspects: readonly Suspect[];
  readonly next: Suggestion | undefined;
  /** Others worth it, best first. */
  readonly others: readonly Suggestion[];
  readonly contradiction: Contradiction | undefined;
  /**
   * `open`: a check is worth making. `found`: one cause stands out. `mended`: a check did away with
   * the fault. `stuck`: nothing is left to check.
   */
  readonly state: 'open' | 'found' | 'mended' | 'stuck';
}

/** A cause stands out from here on. */
export const SURE = 0.97;
/** Putting tools down and taking others up, minutes. */
const TURN = 5;
/** A waiting minute leaves hands free for other work. */
const WAITING = 0.25;
/** Safety first: what a check must be worth, against one that only looks. */
const RISK_COST = {
  none: 1,
  'opens the machine': 1.3,
  'changes settings': 1.5,
  'can lose the board': 5,
} as const;
/** Outcomes less likely than this, given all else that was seen, are doubted. */
const DOUBT = 0.02;
/** Checks worth fewer bits tell nothing. */
const WORTHLESS = 0.01;

/** Minutes a check takes from the bench. */
export function benchMinutes({ hands, waits }: Pick<Check, 'hands' | 'waits'>): number {
  return TURN + hands + waits * WAITING;
}

/** Chances of causes after observations; those that tell nothing leave them as they were. */
export function chancesAfter(model: Model, observations: readonly Observation[]): number[] {
  const chances = [...model.priors];
  for (const { checkId, outcome } of observations) {
    const check = model.checks.find(({ id }) => id === checkId);
    const at = check?.outcomes.indexOf(outcome) ?? -1;
    if (!check || at < 0) continue;
    for (let one = 0; one < chances.length; one++)
      chances[one] = (chances[one] ?? 0) * (check.chances[one]?.[at] ?? 0);
  }
  const sum = chances.reduce((total, one) => total + one, 0);
  // What no cause explains explains nothing: the contradiction is said, the priors stand.
  return sum > 0 ? chances.map((one) => one / sum) : [...model.priors];
}

const entropy = (chances: readonly number[]): number =>
  -chances.reduce((sum, chance) => sum + (chance > 0 ? chance * Math.log2(chance) : 0), 0);

/** What a check would tell: bits, and the leading cause under each outcome. */
function worthOf(
  model: Model,
  check: Check,
  chances: readonly number[],
  doubt: number,
): Suggestion {
  let left = 0;
  const prospects: Prospect[] = [];
  check.outcomes.forEach((outcome, at) => {
    const joint = chances.map((chance, one) => chance * (check.chances[one]?.[at] ?? 0));
    const total = joint.reduce((sum, one) => sum + one, 0);
    if (total <= 0) return;
    const after = joint.map((one) => one / total);
    left += total * entropy(after);
    const best = after.indexOf(Math.max(...after));
    const cause = model.causes[best];
    if (cause)
      prospects.push({ outcome, chance: total, leading: { cause, chance: after[best] ?? 0 } });
  });
  return { check, bits: doubt - left, minutes: benchMinutes(check), prospects };
}

/** Bits per minute, risky checks having to be worth more. */
const value = ({ check, bits, minutes }: Suggestion) => bits / (minutes * RISK_COST[check.risk]);

/** Checks worth making, most telling per minute first. */
export function suggest(
  model: Model,
  chances: readonly number[],
  made: readonly Observation[],
): Suggestion[] {
  const doubt = entropy(chances);
  const done = new Set(made.map(({ checkId }) => checkId));
  return model.checks
    .filter(({ id }) => !done.has(id))
    .map((check) => worthOf(model, check, chances, doubt))
    .filter(({ bits }) => bits >= WORTHLESS)
    .sort((a, b) => value(b) - value(a));
}

/** The observation that least goes with the others, if it hardly does. */
export function findContradiction(
  model: Model,
  observations: readonly Observation[],
): Contradiction | undefined {
  const told = observations.filter(({ outcome }) => outcome !== 'unknown');
  const doubted = told.flatMap((recheck): Contradiction[] => {
    const against = told.filter((one) => one !== recheck);
    const check = model.checks.find(({ id }) => id === recheck.checkId);
    const at = check?.outcomes.indexOf(recheck.outcome) ?? -1;
    if (!check || at < 0 || against.length === 0) return [];
    const chance = chancesAfter(model, against).reduce(
      (sum, one, cause) => sum + one * (check.chances[cause]?.[at] ?? 0),
      0,
    );
    return chance < DOUBT ? [{ recheck, against, chance }] : [];
  });
  return doubted.sort((a, b) => a.chance - b.chance)[0];
}

/** Where fault-finding stands after observations, and the check to make next. */
export function diagnose(model: Model, observations: readonly Observation[]): Diagnosis {
  const chances = chancesAfter(model, observations);
  const suspects = model.causes
    .map((cause, at) => ({ cause, chance: chances[at] ?? 0 }))
    .sort((a, b) => b.chance - a.chance);
  const [next, ...others] = suggest(model, chances, observations);
  const last = observations.at(-1);
  const made = model.checks.find(({ id }) => id === last?.checkId);
  const contradiction = findContradiction(model, observations);
  const state =
    made?.mends && last?.outcome === made.outcomes[0]
      ? 'mended'
      : (suspects[0]?.chance ?? 0) >= SURE && !contradiction
        ? 'found'
        : next
          ? 'open'
          : 'stuck';
  return { suspects, next, others, contradiction, state };
}
