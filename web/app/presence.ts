import type { Here } from '#contract/live';

let all: readonly Here[] = [];
const listeners = new Set<() => void>();

/** Notes where another screen says somebody is; at no job, they are gone. */
export function noteHere(one: Here): void {
  const rest = all.filter(({ tab }) => tab !== one.tab);
  all = one.jobId === null ? rest : [...rest, one];
  for (const tell of listeners) tell();
}

/** The line was down: whoever is there says so again. */
export function forgetHere(): void {
  all = [];
  for (const tell of listeners) tell();
}

/** Where others are; for `useSyncExternalStore`. */
export const currentHere = (): readonly Here[] => all;
export const onHere = (tell: () => void): (() => void) => {
  listeners.add(tell);
  return () => listeners.delete(tell);
};
