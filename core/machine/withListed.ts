import type { Machine } from './machine.ts';

/**
 * A machine with more parts counted as listed for it: what the shop verified or proved in it stands
 * beside what the maker lists.
 */
export function withListed(machine: Machine, parts: readonly string[]): Machine {
  if (parts.length === 0) return machine;
  const listed = machine.verifiedParts === 'unknown' ? [] : machine.verifiedParts;
  return { ...machine, verifiedParts: [...new Set([...listed, ...parts])] };
}
