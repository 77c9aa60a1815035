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
