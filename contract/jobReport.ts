import {
  count,
  gb,
  plainVerdict,
  pointText,
  probeText,
  reportProof,
  reportRows,
  reportStory,
  slotNames,
  timingsText,
} from '#core/explaining';
import type { ReportRow } from '#core/explaining';
import { modulesGone } from '#core/fitting';
import { moduleSummary } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { METRIC_TRAITS, conditionsText, judgeMemoryTest } from '#core/proving';
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

/** The hand-over report: a page for the customer, and the technician's appendix. */
export interface JobReport {
  readonly number: string;
  /** Absent while the job is open: then it is a draft. */
  readonly closedAt: string | undefined;
  /** The verdict in the customer's words. */
  readonly headline: string;
  readonly story: ReturnType<typeof reportStory>;
  readonly rows: readonly ReportRow[];
  readonly proven: readonly string[];
  readonly watch: readonly string[];
  readonly cautions: readonly string[];
  readonly parts: readonly string[];
  readonly appendix: {
    readonly slots: readonly (readonly [slot: string, found: string, fitted: string])[];
    readonly running: readonly (readonly [side: string, point: string])[];
    readonly runs: readonly (readonly [
      test: string,
      side: string,
      runs: string,
      conditions: string,
    ])[];
    readonly pages: readonly string[];
    readonly memoryTests: readonly string[];
  };
}

const SIDES = [
  ['as-found', 'before'],
  ['as-fitted', 'after'],
] as const;

/** Puts a job's report together; page and PDF say the same because both are made of it. */
export function jobReport(job: Job, { terms, pulledTo, results }: ReportParts): JobReport {
  const proof = jobProof(job);
  const machine = jobMachine(job);
  const [found, fitted] = SIDES.map(([kind]) => snapshotOf(job, kind)?.placement ?? {});
  const pulled = fitted && found ? modulesGone(found, fitted) : [];
  const added = fitted && found ? modulesGone(fitted, found) : [];
  const nameOf = slotNames(machine);
  const moduleWords = (module: MemoryModule | undefined) =>
    module ? `${moduleSummary(module)} ${module.partNumber ?? ''}`.trim() : 'empty';
  const lacking = passLacking(job);
  return {
    number: String(job.number).padStart(4, '0'),
    closedAt: job.result?.closedAt,
    headline: proof ? plainVerdict(proof) : 'Nothing fitted yet.',
    story: reportStory(proof, pulled, added),
    rows: proof ? reportRows(proof) : [],
    proven: [
      ...(proof ? reportProof(proof) : []),
      job.memoryTestPassed
        ? 'A full memory test passed with these modules.'
        : lacking === undefined
          ? 'No memory-test pass is on record.'
          : `Not proven stable yet: ${lacking} without a memory-test pass.`,
    ],
    watch: [
      'The first starts after a change can take some minutes while the memory is trained: do not cut the power.',
      'If it restarts by itself, freezes or shows strange errors, write down when, and bring it back: memory can be tested again.',
      ...(lacking === undefined
        ? []
        : ['Keep copies of important work until the memory test has passed.']),
    ],
    cautions: [
      'Keep a current copy of your data.',
      ...(machine.kind === 'laptop'
        ? [
            'Do not open it yourself: the battery stays live. If it ever swells, stop using it and bring it in.',
          ]
        : ['Unplug it before opening it; never open the power supply.']),
    ],
    parts: [
      ...partWords(pulled, added, pulledTo),
      ...(added.length > 0
        ? [
            terms.warranty.trim() === ''
              ? 'Warranty on the fitted parts: as the law and the parts’ maker give it; keep the receipt.'
              : `Warranty on the fitted parts: ${terms.warranty.trim()}`,
          ]
        : []),
    ],
    appendix: {
      slots: [
        ...machine.soldered.map(
          ({ part }) => ['on board', moduleSummary(part), moduleSummary(part)] as const,
        ),
        ...machine.slots.map(
          ({ id }) => [nameOf(id), moduleWords(found?.[id]), moduleWords(fitted?.[id])] as const,
        ),
      ],
      running: proof
        ? [
            ['before', `${pointText(proof.before)}\n${timingsText(proof.before)}`],
            ['after', `${pointText(proof.after)}\n${timingsText(proof.after)}`],
            ['verdict', job.result?.headline ?? jobHeadline(job, proof)],
          ]
        : [],
      runs: SIDES.flatMap(([kind, side]) =>
        job.measurements
          .filter((one) => one.kind === kind)
          .map((one) => {
            const { unit, name } = METRIC_TRAITS[one.metric];
            const counted = one.runs.slice(one.warmUp).join('  ');
            const warm =
              one.warmUp > 0 ? ` (warm-up: ${one.runs.slice(0, one.warmUp).join('  ')})` : '';
            const runs = `${counted} ${unit}${warm}`;
            return [`${one.test}, ${name.toLowerCase()}`, side, runs, conditionsText(one)] as const;
          }),
      ),
      pages: results.map(
        ({ kind, way, result, at, by }) =>
          `${kind === 'as-found' ? 'Before' : 'After'}, ${at.slice(0, 10)}, ${way}, ${by}: ${probeText(result)}${result.marks.length > 0 ? ` (${result.marks.join(', ')})` : ''}`,
      ),
      memoryTests: job.memoryTests.map((test) => {
        const { kind, minutes, passes, errors, tool, at } = test;
        return `${at.slice(0, 10)}, ${kind}${tool && `, ${tool}`}: ${minutes} min, ${passes} ${passes === 1 ? 'pass' : 'passes'}, ${count(errors, 'error')}: ${judgeMemoryTest(test)}`;
      }),
    },
  };
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
