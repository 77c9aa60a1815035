import type { Machine, Placement, Setting } from '../machine/index.ts';
import { matchGrade } from '../matching/index.ts';
import { fittedParts } from '../operating-point/index.ts';

/** Where a memory test ran. */
export const TEST_KINDS = [
  'before the system starts',
  'in the running system',
  'not said',
] as const;
/** See {@link TEST_KINDS}. */
export type TestKind = (typeof TEST_KINDS)[number];

/** A memory test as recorded. */
export interface MemoryTest {
  readonly kind: TestKind;
  readonly minutes: number;
  /** Full passes over all memory. */
  readonly passes: number;
  readonly errors: number;
  /** The modules and slots it ran on; see `fingerprint`. `*` where nobody said, which fits all. */
  readonly fingerprint: string;
  readonly setting: string;
}

/** What a test says. */
export type TestVerdict = 'passed' | 'failed' | 'too short';

const ANY = '*';
/** A running system cannot reach all memory, so what it leaves out is made up for by time. */
const LEAST_MINUTES = 60;

/**
 * Judges one test. Any error fails. Before the system starts one full pass is the least; in the
 * running system an hour and a pass are, since parts of memory are never reached there.
 */
export function judgeMemoryTest({ kind, minutes, passes, errors }: MemoryTest): TestVerdict {
  if (errors > 0) return 'failed';
  if (passes < 1) return 'too short';
  return kind === 'in the running system' && minutes < LEAST_MINUTES ? 'too short' : 'passed';
}

/**
 * What the tests say of the machine as it is now: only those on the same modules in the same slots
 * at the same setting count, and one error outweighs any number of passes until the modules change.
 *
 * @param tests - oldest first
 */
export function memoryTestState(
  tests: readonly MemoryTest[],
  now: { readonly fingerprint: string; readonly setting: string },
): TestVerdict | 'none' | 'on other modules' {
  const own = tests.filter(
    ({ fingerprint, setting }) =>
      fingerprint === ANY || (fingerprint === now.fingerprint && setting === now.setting),
  );
  if (own.length === 0) return tests.length > 0 ? 'on other modules' : 'none';
  const verdicts = own.map(judgeMemoryTest);
  if (verdicts.includes('failed')) return 'failed';
  return verdicts.includes('passed') ? 'passed' : 'too short';
}

/**
 * Why a set is not proven without a memory-test pass; undefined where it is. Modules that agree in
 * all that is known of them, without part numbers to tell them apart, are not called mixed.
 */
export function passNeeded(
  machine: Machine,
  placement: Placement,
  setting: Setting,
): 'profile' | 'mixed set' | undefined {
  if (setting === 'profile') return 'profile';
  const parts = fittedParts(machine, placement);
  const graded = parts.map(({ module, slotId }) => ({ module, soldered: slotId === undefined }));
  const grade = matchGrade(graded, false);
  const isNamed = parts.every(({ module }) => module.partNumber !== undefined);
  const isMixed = !['one kit', 'same part'].includes(grade) && (grade !== 'same spec' || isNamed);
  return isMixed ? 'mixed set' : undefined;
}

/** What a table of a memory test tells of it: totals where it has columns for them. */
export function testFieldsFromRows(rows: readonly (readonly string[])[]): {
  minutes?: number;
  passes?: number;
  errors?: number;
} {
  const [header = [], ...body] = rows;
  const column = (pattern: RegExp): number[] | undefined => {
    const at = header.findIndex((name) => pattern.test(name));
    const values = body.map((cells) => Number((cells[at] ?? '').replace(',', '.')));
    return at < 0 ? undefined : values.filter((value) => Number.isFinite(value) && value >= 0);
  };
  const most = (values: number[] | undefined) =>
    values && values.length > 0 ? { most: Math.max(...values) } : undefined;
  const minutes = most(column(/minute|duration/i));
  const passes = most(column(/pass/i));
  const counted = column(/errors?$/i);
  // A row for each failing address is a count of its own.
  const listed = header.some((name) => /addr/i.test(name)) ? body.length : undefined;
  const errors = counted?.reduce((sum, one) => sum + one, 0) ?? listed;
  return {
    ...(minutes ? { minutes: minutes.most } : {}),
    ...(passes ? { passes: Math.floor(passes.most) } : {}),
    ...(errors === undefined ? {} : { errors }),
  };
}
