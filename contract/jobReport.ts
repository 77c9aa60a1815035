import {
  count,
  gb,
  multiplicityText,
  plainVerdict,
  pointText,
  probeText,
  reportProof,
  reportRows,
  reportStory,
  slotNames,
  timingsText,
  shortDay,
} from '#core/explaining';
import type { ReportRow } from '#core/explaining';
import { modulesGone } from '#core/fitting';
import { moduleSummary } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import type { Running } from '#core/operating-point';
import { METRIC_TRAITS, conditionsText, judgeMemoryTest } from '#core/proving';
import type { Proof } from '#core/proving';
import type { ShopTerms } from '#core/quoting';
import { jobHeadline, jobMachine, jobProof, passLacking, snapshotOf } from './jobProof.ts';
import type { ProbeRecord } from './measuring.ts';
import type { Job } from './records.ts';

/** What a report is made of besides the job itself. */
export interface ReportParts {
  readonly terms: Pick<ShopTerms, 'name' | 'address' | 'warranty'>;
  /** Where pulled modules go. */
  readonly pulledTo: 'drawer' | 'customer';
  readonly results: readonly ProbeRecord[];
}

/** A part of a report, told the same on the page and on paper. */
export type ReportSection = { readonly title: string } & (
  | { readonly type: 'text'; readonly text: string }
  | { readonly type: 'list'; readonly texts: readonly string[] }
  /** How the memory lies now, channel by channel. */
  | { readonly type: 'lanes'; readonly point: Running }
  /** Before and after as bars. */
  | { readonly type: 'bars'; readonly rows: readonly ReportRow[] }
  | ReportTable
);

/** Rows of text; `shares` are the columns' parts of the width. */
export interface ReportTable {
  readonly type: 'table';
  readonly title: string;
  readonly heads: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly shares: readonly number[];
}

/** The hand-over report: a page for the customer, and the technician's appendix. */
export interface JobReport {
  readonly number: string;
  /** Absent while the job is open: then it is a draft. */
  readonly closedAt: string | undefined;
  /** The verdict in the customer's words. */
  readonly headline: string;
  readonly page: readonly ReportSection[];
  readonly foot: string;
  readonly appendix: readonly ReportSection[];
  readonly appendixFoot: string;
}

/** Bars that fit a page; whatever else was measured stands in the technician's part. */
const MOST_BARS = 6;

const SIDES = [
  ['as-found', 'before'],
  ['as-fitted', 'after'],
] as const;

/** Puts a job's report together; page and PDF say the same because both are made of it. */
export function jobReport(job: Job, parts: ReportParts): JobReport {
  const proof = jobProof(job);
  return {
    number: String(job.number).padStart(4, '0'),
    closedAt: job.result?.closedAt,
    headline: proof ? plainVerdict(proof) : 'Nothing fitted yet.',
    page: customerPage(job, proof, parts),
    foot: 'Measured on this machine; other programs may gain more or less.',
    appendix: technicianPage(job, proof, parts),
    appendixFoot:
      'Intervals: bootstrap of the ratio of means, widened for few runs; 19 of 20 such intervals hold the true change.',
  };
}

/** What the customer reads: pictures and plain words; how sure it is stands in the appendix. */
function customerPage(job: Job, proof: Proof | undefined, given: ReportParts): ReportSection[] {
  const machine = jobMachine(job);
  const { pulled, added } = changedModules(job);
  const { was, done, gives } = reportStory(proof, pulled, added);
  const rows = proof ? reportRows(proof) : [];
  const shown = rows.slice(0, MOST_BARS);
  const lacking = passLacking(job);
  const list = (title: string, texts: readonly string[]): ReportSection[] =>
    texts.length > 0 ? [{ title, type: 'list', texts }] : [];
  return [
    { title: 'What you told us', type: 'text', text: job.complaint },
    ...list(
      'What was done, and what it gives you',
      [was, done, gives].filter((text) => text !== ''),
    ),
    ...(proof?.after.type === 'runs'
      ? [{ title: 'How the memory lies now', type: 'lanes', point: proof.after } as const]
      : []),
    ...(shown.length > 0
      ? [{ title: 'What was measured', type: 'bars', rows: shown } as const]
      : []),
    ...list('What was proven', [
      ...(rows.length === 0 ? ['Nothing was measured, so no gain is claimed.'] : []),
      ...(rows.length > shown.length
        ? [`${count(rows.length - shown.length, 'more figure')} in the technician’s part.`]
        : []),
      ...(proof ? reportProof(proof) : []),
      job.memoryTestPassed
        ? 'A full memory test passed with these modules.'
        : lacking === undefined
          ? 'No memory-test pass is on record.'
          : `Not proven stable yet: ${lacking} without a memory-test pass.`,
    ]),
    ...list('What to watch', [
      'The first starts after a change can take some minutes while the memory is trained: do not cut the power.',
      'If it restarts by itself, freezes or shows strange errors, write down when, and bring it back: memory can be tested again.',
      ...(lacking === undefined
        ? []
        : ['Keep copies of important work until the memory test has passed.']),
    ]),
    ...list('Please take care', [
      'Keep a current copy of your data.',
      machine.kind === 'laptop'
        ? 'Do not open it yourself: the battery stays live. If it ever swells, stop using it and bring it in.'
        : 'Unplug it before opening it; never open the power supply.',
    ]),
    ...list('Parts', [
      ...partWords(pulled, added, given.pulledTo),
      ...(added.length > 0
        ? [
            given.terms.warranty.trim() === ''
              ? 'Warranty on the fitted parts: as the law and the parts’ maker give it; keep the receipt.'
              : `Warranty on the fitted parts: ${given.terms.warranty.trim()}`,
          ]
        : []),
    ]),
  ];
}

/** Modules that went out and came in. */
function changedModules(job: Job) {
  const found = snapshotOf(job, 'as-found')?.placement;
  const fitted = snapshotOf(job, 'as-fitted')?.placement;
  return found && fitted
    ? { pulled: modulesGone(found, fitted), added: modulesGone(fitted, found) }
    : { pulled: [], added: [] };
}

/** What the next technician needs: slots, timings, statistics, every run and its conditions. */
function technicianPage(
  job: Job,
  proof: Proof | undefined,
  { results }: ReportParts,
): ReportSection[] {
  const table = (
    title: string,
    heads: readonly string[],
    shares: readonly number[],
    rows: readonly (readonly string[])[],
    none: string,
  ): ReportSection =>
    rows.length > 0
      ? { type: 'table', title, heads, shares, rows }
      : { type: 'text', title, text: none };
  const texts = (title: string, all: readonly string[]): ReportSection[] =>
    all.length > 0 ? [{ type: 'list', title, texts: all }] : [];
  const memoryTests = job.memoryTests.map((test) => {
    const { kind, minutes, passes, errors, tool, at } = test;
    return `${shortDay(at)}, ${kind}${tool && `, ${tool}`}: ${minutes} min, ${count(passes, 'pass')}, ${count(errors, 'error')}: ${judgeMemoryTest(test)}`;
  });
  return [
    table('Slots', ['Slot', 'Found', 'Fitted'], [0.16, 0.42, 0.42], slotRows(job), 'None.'),
    table(
      'Running',
      ['Side', 'Rate, timings, width, peak'],
      [0.16, 0.84],
      proof
        ? [
            ['before', `${pointText(proof.before)}; ${timingsText(proof.before)}`],
            ['after', `${pointText(proof.after)}; ${timingsText(proof.after)}`],
            ['verdict', job.result?.headline ?? jobHeadline(job, proof)],
          ]
        : [],
      'Not on record.',
    ),
    table(
      'How sure each change is',
      ['Test', 'Before', 'Now', 'Change', 'How sure'],
      [0.24, 0.14, 0.14, 0.16, 0.32],
      (proof ? reportRows(proof) : []).map(({ test, name, before, after, change, sure }) => [
        ...[`${test}, ${name.toLowerCase()}`, before, after, change, sure],
      ]),
      'Nothing was measured.',
    ),
    ...texts('Judged together', [(proof && multiplicityText(proof)) ?? []].flat()),
    table(
      'Every run, under its conditions',
      ['Test', 'Side', 'Runs', 'Conditions'],
      [0.22, 0.08, 0.34, 0.36],
      runRows(job),
      'None.',
    ),
    ...texts(
      'Results of the measuring page',
      results.map(
        ({ kind, way, result, at, by }) =>
          `${kind === 'as-found' ? 'Before' : 'After'}, ${shortDay(at)}, ${way}, ${by}: ${probeText(result)}${result.marks.length > 0 ? ` (${result.marks.join(', ')})` : ''}`,
      ),
    ),
    memoryTests.length > 0
      ? { type: 'list', title: 'Memory tests', texts: memoryTests }
      : { type: 'text', title: 'Memory tests', text: 'None on record.' },
  ];
}

function slotRows(job: Job): string[][] {
  const machine = jobMachine(job);
  const [found, fitted] = SIDES.map(([kind]) => snapshotOf(job, kind)?.placement ?? {});
  const nameOf = slotNames(machine);
  const words = (module: MemoryModule | undefined) =>
    module ? `${moduleSummary(module)} ${module.partNumber ?? ''}`.trim() : 'empty';
  return [
    ...machine.soldered.map(({ part }) => ['on board', moduleSummary(part), moduleSummary(part)]),
    ...machine.slots.map(({ id }) => [nameOf(id), words(found?.[id]), words(fitted?.[id])]),
  ];
}

function runRows(job: Job): string[][] {
  return SIDES.flatMap(([kind, side]) =>
    job.measurements
      .filter((one) => one.kind === kind)
      .map((one) => {
        const { unit, name } = METRIC_TRAITS[one.metric];
        const counted = one.runs.slice(one.warmUp).join('  ');
        const warm =
          one.warmUp > 0 ? ` (warm-up: ${one.runs.slice(0, one.warmUp).join('  ')})` : '';
        const runs = `${counted} ${unit}${warm}`;
        return [`${one.test}, ${name.toLowerCase()}`, side, runs, conditionsText(one)];
      }),
  );
}

function partWords(
  pulled: readonly MemoryModule[],
  added: readonly MemoryModule[],
  pulledTo: 'drawer' | 'customer',
): string[] {
  if (pulled.length === 0) return added.length > 0 ? ['Nothing was taken out.'] : [];
  const what = `${count(pulled.length, 'module')} taken out (${pulled.map(({ capacity }) => gb(capacity)).join(', ')})`;
  return [
    pulledTo === 'customer'
      ? `${what}: yours, handed back with the machine.`
      : `${what}: kept here, and credited on your quote.`,
  ];
}
