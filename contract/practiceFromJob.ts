import { diagnose, modelOf } from '#core/diagnosing';
import type { Cause, CauseKind } from '#core/diagnosing';
import type { Machine, Placement, SlotId } from '#core/machine';
import { sameModule } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { operatingPoint } from '#core/operating-point';
import type { Exercise, Goal, HiddenFault, PartOffer, Piece, RuleId } from '#core/practice';
import type { BenchLog } from './bench.ts';
import { jobBench, jobSituation } from './jobBench.ts';
import { jobMachine, snapshotOf } from './jobProof.ts';
import type { Quote } from './quotes.ts';
import type { Job } from './records.ts';

/** Days a part takes where nobody wrote them down. */
const USUAL_DAYS = 2;

/** What a GB costs where nothing says it, in hundredths: made up, so that money counts at all. */
const USUAL_PRICE_PER_GB = 300;

/** What an exercise of a job is called. */
export const exerciseIdOf = (job: Pick<Job, 'number'>): string => `job-${job.number}`;

/**
 * A closed job as an exercise: the machine as it was found, what was bought for it, and what was wrong
 * as it was finally found. Nothing of the customer goes with it: no name, no words of theirs, no names
 * of machines. The author writes the words anew.
 *
 * @param priceOf - what the catalogue asks for a module, for jobs without an accepted quote
 * @returns undefined where the job does not say what was found and what was fitted
 */
export function exerciseFromJob(
  job: Job,
  log: BenchLog,
  quotes: readonly Quote[],
  priceOf: (module: MemoryModule) => number | undefined = () => undefined,
): Exercise | undefined {
  const machine = nameless(jobMachine(job));
  const found = snapshotOf(job, 'as-found');
  const fitted = snapshotOf(job, 'as-fitted') ?? snapshotOf(job, 'planned') ?? found;
  if (!found || !fitted) return undefined;
  const cause = causeOf(job, log);
  const fault = cause && hiddenFault(cause);
  // With something wrong it is the machine as it came back from the bench; else as it was brought in.
  const begins = cause ? fitted : found;
  const pieces = piecesOf(machine, begins.placement);
  const point = operatingPoint(machine, fitted.placement, fitted.setting);
  if (point.type !== 'runs') return undefined;
  const offers = offersOf(found.placement, fitted.placement, quotes, cause, priceOf);
  const placed = Object.fromEntries(pieces.map(({ id, at }) => [at, id]));
  const goal: Goal = {
    usable: Math.floor(point.usable.low),
    ...(point.paired === point.installed ? { paired: 'all' as const } : {}),
    ...(fitted.setting === 'profile' ? { rate: point.rate } : {}),
    budget: offers.reduce((sum, { price }) => sum + price, 0),
    ...(cause ? { finding: cause.kind } : {}),
  };
  return {
    ...{ id: exerciseIdOf(job), title: `From job ${job.number}`, level: 3 },
    teaches: [cause ? (RULE_OF[cause.kind] ?? 'seating') : 'one channel'],
    customer: {
      says: cause
        ? 'Something is not right with it since it was worked on. Find out what.'
        : 'It is too slow for what I do with it. What can be done?',
      answers: { work: `Work that takes ${goal.usable} GB.` },
    },
    machine,
    ...(job.machine.coverMap ? { cover: job.machine.coverMap } : {}),
    ...{ pieces, offers, setting: begins.setting, faults: fault ? [fault] : [] },
    firmware: { showsClock: false, phantoms: [] },
    ...(cause ? { record: { placement: placed, setting: fitted.setting } } : {}),
    ...(cause ? { symptom: cause.symptom } : {}),
    ...{ moved: cause !== undefined, goal },
  };
}

/** What could tell whose it was is taken out. */
const nameless = (machine: Machine): Machine => ({
  ...machine,
  name: `A ${machine.kind}`,
});

function piecesOf(machine: Machine, placement: Placement): Piece[] {
  return machine.slots.flatMap(({ id }, at): Piece[] => {
    const module = placement[id];
    return module ? [{ id: `m${at + 1}`, module, at: id }] : [];
  });
}

type Found = Cause & { readonly symptom: NonNullable<Exercise['symptom']> };

/** What fault-finding came to in the end. */
function causeOf(job: Job, log: BenchLog): Found | undefined {
  const bench = jobBench(job, log);
  const { fault } = bench.state;
  if (!fault) return undefined;
  const model = modelOf(jobSituation(job, bench, fault.symptom));
  const { suspects, state } = diagnose(model, fault.observations);
  const [first] = suspects;
  if (!first || (state !== 'found' && state !== 'mended')) return undefined;
  return { ...first.cause, symptom: fault.symptom };
}

/** What of it cannot be told from machine and modules, as it is hidden in an exercise. */
function hiddenFault({ kind, slotId }: Cause): HiddenFault | undefined {
  const place = slotId ?? '';
  switch (kind) {
    case 'not seated':
    case 'dead slot':
      return slotId === undefined ? undefined : { kind, slotId: place };
    case 'lead left off':
    case 'stale settings':
    case 'profile unstable':
    case 'mixed timings':
    case 'heat':
      return { kind };
    case 'not the memory':
      return { kind, shows: 'crashes' };
    default:
      return undefined;
  }
}

const RULE_OF: Partial<Readonly<Record<CauseKind, RuleId>>> = {
  'not seated': 'seating',
  'dirty contacts': 'contacts',
  'bad module': 'bad module',
  'dead slot': 'dead slot',
  'wrong slot': 'one channel',
  'first slot empty': 'first slot',
  'training unfinished': 'training',
  'lead left off': 'leads',
  'firmware outdated': 'old firmware',
  'profile off': 'profile off',
  'mixed timings': 'mixed timings',
  'reading mistaken': 'half clock',
  'system limit': 'system limit',
  'start option': 'start option',
  'graphics share': 'graphics share',
  heat: 'heat',
  'not the memory': 'not the memory',
};

/** Modules that were fitted and not found, at what the accepted quote charged for them. */
function offersOf(
  found: Placement,
  fitted: Placement,
  quotes: readonly Quote[],
  cause: Found | undefined,
  priceOf: (module: MemoryModule) => number | undefined,
): PartOffer[] {
  // With something wrong they are in the machine already.
  if (cause) return [];
  const left = modulesOf(found);
  const added = modulesOf(fitted).filter((module) => {
    const at = left.findIndex((one) => sameModule(one, module));
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
  const accepted = quotes.find(({ answer }) => answer?.what === 'accepted');
  const parts = (accepted?.lines ?? []).filter(({ kind }) => kind === 'part' || kind === 'drawer');
  const total = parts.reduce((sum, { each, quantity }) => sum + each * quantity, 0);
  const kinds: { module: MemoryModule; units: number }[] = [];
  for (const module of added) {
    const same = kinds.find((one) => sameModule(one.module, module));
    if (same) same.units += 1;
    else kinds.push({ module, units: 1 });
  }
  return kinds.map(({ module, units }, at) => ({
    ...{ id: `part${at + 1}`, module, units: Math.min(units, 4), days: USUAL_DAYS },
    price:
      total > 0
        ? Math.round((total * units) / added.length)
        : (priceOf(module) ?? USUAL_PRICE_PER_GB * module.capacity) * units,
  }));
}

const modulesOf = (placement: Placement): MemoryModule[] =>
  (Object.entries(placement) as [SlotId, MemoryModule | undefined][]).flatMap(
    ([, module]) => module ?? [],
  );
