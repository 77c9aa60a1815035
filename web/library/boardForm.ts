/**
 * Slot names of one step of a fill order: parted by commas, or by spaces where the names themselves
 * have none.
 */
export function stepNames(step: string, known: readonly string[]): string[] {
  const isKnown = (name: string) => known.some((one) => one.toLowerCase() === name.toLowerCase());
  const tidy = (pieces: readonly string[]) => pieces.map((one) => one.trim()).filter(Boolean);
  if (step.includes(',') || isKnown(step.trim())) return tidy(step.split(','));
  return tidy(step.split(/\s+/));
}

/** Steps of a fill order as typed: `A2; A2, B2`. */
export function orderSteps(text: string, known: readonly string[]): string[][] {
  return text
    .split(';')
    .map((step) => stepNames(step, known))
    .filter((names) => names.length > 0);
}

/** The slots of a fill order in the order they are tapped; `[]` where it is not one after another. */
export function tapsFromOrder(text: string, known: readonly string[]): string[] {
  const taps: string[] = [];
  for (const names of orderSteps(text, known)) {
    const added = names.filter((name) => !taps.includes(name));
    // A manual that moves modules between steps cannot be told by tapping; its text stays.
    if (added.length !== 1 || names.length !== taps.length + 1) return [];
    taps.push(added[0] ?? '');
  }
  return taps;
}

/** The fill order, as it is typed, of slots tapped one after another. */
export function orderFromTaps(taps: readonly string[]): string {
  return taps.map((_, at) => taps.slice(0, at + 1).join(', ')).join('; ');
}

/** The first letter no channel has. */
export function nextLetter(channels: readonly string[]): string {
  const letters = Array.from({ length: 16 }, (_, at) => String.fromCharCode(65 + at));
  return letters.find((letter) => !channels.includes(letter)) ?? 'P';
}
