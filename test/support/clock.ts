import { afterEach, beforeEach, vi } from 'vitest';

export const DAY_MS = 86_400_000;

/** Puts every test of a file on a clock that can be set; timers of the server go on. Gives what sets it, by ms. */
export function onAClock(): (ms: number) => void {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['Date'], now: Date.now() }));
  afterEach(() => void vi.useRealTimers());
  return (ms) => void vi.setSystemTime(Date.now() + ms);
}
