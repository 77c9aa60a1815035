import type { ProbeMark } from '../core/proving/probe.ts';

/**
 * One window, taken again while it says what no memory does: the system let the thread wait for most
 * of it. The bench would refuse the whole result for it.
 *
 * @throws Error when it never says anything else
 */
export async function credible(
  once: () => Promise<number>,
  { least, most }: { readonly least: number; readonly most: number },
  marks: Set<ProbeMark>,
): Promise<number> {
  for (let tries = 0; tries < 10; tries++) {
    const value = await once();
    if (value >= least && value <= most) return value;
    marks.add('noisy');
  }
  throw new Error('other programs leave this page no time.');
}
