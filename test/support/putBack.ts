import { afterAll, expect } from 'vitest';

// Files of tests share a process. One that loads what puts its own `JSON.parse` in place of the engine's
// would have all that follow judged with that; a server that takes a torn body for an empty one was the first.

const PARTS = [JSON, Object, Object.prototype, Array, Array.prototype, Promise, Promise.prototype];

/** What the language brings along, as it is now. */
const builtIn = (): Record<string, unknown>[] =>
  PARTS.map((part) => Object.fromEntries(Object.entries(Object.getOwnPropertyDescriptors(part))));

const process = globalThis as { builtIn?: ReturnType<typeof builtIn> };
const atFirst = (process.builtIn ??= builtIn());

afterAll(() => {
  expect(builtIn(), 'something replaces what the language brings along').toEqual(atFirst);
});
