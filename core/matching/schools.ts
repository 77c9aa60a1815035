import type { Machine, Placement, Setting } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { fittedParts, operatingPoint } from '../operating-point/index.ts';
import type { Fitted, Running } from '../operating-point/index.ts';
import { compareGrades, isSamePart, isSameRating, isSameSpec, matchGrade } from './grade.ts';
import type { Grade, Graded } from './grade.ts';
import { JUDGEMENTS, SCHOOLS } from './school.ts';
import type { Judgement, School } from './school.ts';

/** The questions schools differ on. */
export type SchoolQuestion =
  | 'mixing'
  | 'uneven channels'
  | 'sealed packs'
  | 'verified list'
  | 'profile beyond limit'
  | 'needless one channel';

/** One row of a school's judgement, with what decided it. */
export interface SchoolRow {
  readonly question: SchoolQuestion;
  readonly judgement: Judgement;
  readonly because:
    | 'one kit'
    | 'one part, all listed'
    | 'mixed'
    | 'same spec in pairs'
    | 'spec differs in a pair'
    | 'same spec'
    | 'spec differs'
    | 'even'
    | 'uneven'
    | 'unlike in one channel'
    | 'need fits the paired zone'
    | 'need exceeds the paired zone'
    | 'need not stated'
    | 'capacity first'
    | 'one pack'
    | 'all listed'
    | 'same part'
    | 'packs differ'
    | 'not listed'
    | 'no list known'
    | 'list ignored'
    | 'nothing to list'
    | 'within limits'
    | 'memory test passed'
    | 'beyond a limit'
    | 'no better placement'
    | 'a better placement exists';
}

/** A school's verdict on a placement. */
export interface SchoolVerdict {
  readonly school: School;
  readonly judgement: Judgement;
  readonly rows: readonly SchoolRow[];
}

/** What the job says that schools ask about. */
export interface JobStance {
  /** Need with margin, GiB, graphics carve-out not included; absent = not stated. */
  readonly need?: number | undefined;
  /** The job puts capacity before an even set of channels. */
  readonly capacityFirst: boolean;
  /** A memory test has passed with these modules at this setting. */
  readonly memoryTestPassed: boolean;
}

/** Grade of a placement with what each school would say of it. */
export interface MatchReport {
  readonly grade: Grade;
  readonly schools: readonly SchoolVerdict[];
}

/** Judges a placement by every school. A blocked placement grades `no go` and no school is asked. */
export function judgeMatch(
  machine: Machine,
  placement: Placement,
  setting: Setting,
  stance: JobStance,
): MatchReport {
  const point = operatingPoint(machine, placement, setting);
  if (point.type === 'blocked') return { grade: 'no go', schools: [] };
  const context = describe(machine, placement, setting, stance, point);
  const schools = SCHOOLS.map((school): SchoolVerdict => {
    const rows = QUESTIONS.map(([question, judge]): SchoolRow => ({
      question,
      ...judge(school, context),
    }));
    const worst = rows.reduce((most, row) => Math.max(most, JUDGEMENTS.indexOf(row.judgement)), 0);
    return { school, judgement: JUDGEMENTS[worst] ?? 'refuse', rows };
  });
  return { grade: context.grade, schools };
}

interface Context {
  readonly grade: Grade;
  readonly fitted: readonly Fitted[];
  readonly point: Running;
  readonly machine: Machine;
  readonly profiled: boolean;
  readonly stance: JobStance;
  readonly listed: 'all' | 'not all' | 'no list';
}

type Answer = Pick<SchoolRow, 'judgement' | 'because'>;
const answer = (judgement: Judgement, because: SchoolRow['because']): Answer => ({
  judgement,
  because,
});

function describe(
  machine: Machine,
  placement: Placement,
  setting: Setting,
  stance: JobStance,
  point: Running,
): Context {
  const fitted = fittedParts(machine, placement);
  const profiled = setting === 'profile' && point.rungs.some(({ rule }) => rule === 'profile');
  const graded = fitted.map(({ module, slotId }) => ({ module, soldered: slotId === undefined }));
  const { verifiedParts } = machine;
  const isListed = ({ module, slotId }: Fitted) =>
    slotId === undefined ||
    (verifiedParts !== 'unknown' &&
      module.partNumber !== undefined &&
      verifiedParts.includes(module.partNumber));
  const listed =
    verifiedParts === 'unknown' ? 'no list' : fitted.every(isListed) ? 'all' : 'not all';
  return { grade: matchGrade(graded, profiled), fitted, point, machine, profiled, stance, listed };
}

/**
 * Pairs: the n-th module of each channel, by position. Soldered memory is its channel's first. Where
 * all stand in one channel of several they are pairs of one another. Modules of unlike size are
 * compared by rating alone.
 */
function pairsAgree(context: Context): boolean {
  const { fitted, machine, profiled } = context;
  if (isStacked(context))
    return agree(
      fitted.map(({ module }) => module),
      profiled,
    );
  const columns = machine.channels.map((channel) =>
    fitted.filter((part) => part.channels.includes(channel)),
  );
  const depth = Math.max(...columns.map((column) => column.length));
  return Array.from({ length: depth }, (_, n) =>
    columns.flatMap((column) => column[n]?.module ?? []),
  ).every((row) => agree(row, profiled));
}

/** All modules lie in one channel of several. */
function isStacked({ machine, point }: Context): boolean {
  return (
    machine.channels.length > 1 && point.loads.filter(({ modules }) => modules > 0).length === 1
  );
}

function agree(modules: readonly MemoryModule[], profiled: boolean): boolean {
  return modules.every((a, at) =>
    modules
      .slice(at + 1)
      .every((b) =>
        a.capacity === b.capacity ? isSameKitOrSpec(a, b, profiled) : isSameRating(a, b, profiled),
      ),
  );
}

function isSameKitOrSpec(a: MemoryModule, b: MemoryModule, profiled: boolean): boolean {
  const sameKit = a.kitId !== undefined && a.kitId === b.kitId;
  return sameKit || isSamePart(a, b) || isSameSpec(a, b, profiled);
}

const socketedOf = (fitted: readonly Fitted[]): Graded[] =>
  fitted.flatMap(({ module, slotId }) =>
    slotId === undefined ? [] : [{ module, soldered: false }],
  );

function judgeMixing(school: School, context: Context): Answer {
  const { grade, listed, fitted, profiled } = context;
  if (school === 'strict') {
    // Soldered memory is nobody's choice, so only what is socketed is asked about.
    const socketed = matchGrade(socketedOf(fitted), profiled);
    if (socketed === 'one kit') return answer('accept', 'one kit');
    return socketed === 'same part' && listed === 'all'
      ? answer('accept', 'one part, all listed')
      : answer('refuse', 'mixed');
  }
  if (grade === 'one kit') return answer('accept', 'one kit');
  if (school === 'balanced')
    return pairsAgree(context)
      ? answer('accept', 'same spec in pairs')
      : answer('refuse', 'spec differs in a pair');
  const same =
    compareGrades(grade, 'same spec') <= 0 ||
    agree(
      fitted.map(({ module }) => module),
      profiled,
    );
  return same ? answer('accept', 'same spec') : answer('caution', 'spec differs');
}

function judgeUneven(school: School, context: Context): Answer {
  const { point, machine, stance, fitted } = context;
  const populated = point.loads.filter(({ capacity }) => capacity > 0);
  const [first] = fitted;
  // Modules of unlike size with no counterpart in another channel are uneven among themselves.
  const isUnlike =
    isStacked(context) && fitted.some(({ module }) => module.capacity !== first?.module.capacity);
  if (!isUnlike && populated.every(({ capacity }) => capacity === populated[0]?.capacity))
    return answer('accept', 'even');
  const because = isUnlike ? 'unlike in one channel' : 'uneven';
  if (school === 'strict') return answer('refuse', because);
  if (school === 'lenient') return answer('caution', because);
  if (stance.capacityFirst) return answer('accept', 'capacity first');
  if (stance.need === undefined) return answer('refuse', 'need not stated');
  // `paired` is 0 where the trait is unknown: the worse reading runs one channel wide.
  const fits = stance.need + machine.graphicsCarveOut.high <= point.paired;
  return fits
    ? answer('accept', 'need fits the paired zone')
    : answer('refuse', 'need exceeds the paired zone');
}

function judgePacks(school: School, { fitted, listed }: Context): Answer {
  const socketed = socketedOf(fitted).map(({ module }) => module);
  const packs = new Set(socketed.flatMap(({ kitId }) => kitId ?? []));
  if (packs.size < 2) return answer('accept', 'one pack');
  if (school === 'lenient') return answer('accept', 'same spec');
  if (school === 'strict')
    return listed === 'all' ? answer('accept', 'all listed') : answer('refuse', 'not listed');
  const [first] = socketed;
  const samePart = first && socketed.every((module) => isSamePart(first, module));
  return samePart ? answer('accept', 'same part') : answer('caution', 'packs differ');
}

function judgeList(school: School, { listed, fitted }: Context): Answer {
  if (school === 'lenient') return answer('accept', 'list ignored');
  if (socketedOf(fitted).length === 0) return answer('accept', 'nothing to list');
  if (listed === 'all') return answer('accept', 'all listed');
  const because = listed === 'no list' ? 'no list known' : 'not listed';
  return answer(school === 'strict' ? 'refuse' : 'caution', because);
}

function judgeProfile(school: School, { point, stance }: Context): Answer {
  if (!point.rungs.some(({ role }) => role === 'warning')) return answer('accept', 'within limits');
  if (school === 'strict') return answer('refuse', 'beyond a limit');
  const tested = school === 'balanced' && stance.memoryTestPassed;
  return tested ? answer('accept', 'memory test passed') : answer('caution', 'beyond a limit');
}

function judgeNeedless(school: School, { point }: Context): Answer {
  if (!point.flags.some(({ type }) => type === 'one-channel-needless'))
    return answer('accept', 'no better placement');
  return answer(school === 'lenient' ? 'caution' : 'refuse', 'a better placement exists');
}

const QUESTIONS: readonly [SchoolQuestion, (school: School, context: Context) => Answer][] = [
  ['mixing', judgeMixing],
  ['uneven channels', judgeUneven],
  ['sealed packs', judgePacks],
  ['verified list', judgeList],
  ['profile beyond limit', judgeProfile],
  ['needless one channel', judgeNeedless],
];
