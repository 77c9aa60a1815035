import type { MemoryModule, PhotoHints } from '#core/memory';

/** What a catalogue knows of modules, for a label off a photo. */
export function photoHints(
  parts: readonly { readonly label: string; readonly module: Pick<MemoryModule, 'partNumber'> }[],
): PhotoHints {
  const known = parts.flatMap(({ label, module: { partNumber } }) =>
    partNumber === undefined ? [] : [[partNumber, label] as const],
  );
  return { partNumbers: known.map(([part]) => part), labels: Object.fromEntries(known) };
}
