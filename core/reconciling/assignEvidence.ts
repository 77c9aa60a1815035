import type { DeviceClaim } from '../inventory/index.ts';
import type { Machine, SlotId } from '../machine/index.ts';
import type { Evidence } from './evidence.ts';
import { MATCH_CONFIDENCE, locatorKey, matchLocators } from './locators.ts';
import type { LocatorMatch, RememberedLocators } from './locators.ts';

/** One device of one piece of evidence, and the slot it was put to. */
export interface Assigned {
  readonly evidence: Evidence;
  readonly index: number;
  readonly claim: DeviceClaim;
  readonly slotId?: SlotId | undefined;
  readonly match: LocatorMatch;
  /** What its place is remembered under. */
  readonly key: string;
}

/**
 * Puts every device of every piece of evidence to a slot: where a person said; by its locator; an
 * SPD image, which names no place, by its file's name, its serial, or a part only one slot shows.
 */
export function assignEvidence(
  machine: Machine,
  evidence: readonly Evidence[],
  remembered: RememberedLocators,
): Assigned[] {
  const placed: Assigned[] = [];
  const images: Assigned[] = [];
  for (const one of evidence) {
    const located = one.devices.map(({ locator, bankLocator }) => ({ locator, bankLocator }));
    const names = one.source === 'spd' ? one.devices.map((_, at) => fileNames(one, at)) : located;
    const matches = matchLocators(machine, withoutSoldered(one, names), remembered);
    one.devices.forEach((claim, index) => {
      const said = one.slotIds?.[index];
      const match = matches[index] ?? { rule: 'no match' as const, confidence: 0 };
      // File names are a hint no order may be read from.
      const isHint = one.source === 'spd' && (match.rule === 'order' || match.rule === 'number');
      const base = { evidence: one, index, claim, key: locatorKey(names[index] ?? {}) };
      if (said !== undefined)
        placed.push({ ...base, slotId: said, match: { rule: 'said', confidence: 1 } });
      else if (match.slotId !== undefined && !isHint)
        placed.push({ ...base, slotId: match.slotId, match });
      else if (one.source === 'spd' && !claim.soldered) images.push({ ...base, match });
      else placed.push({ ...base, match });
    });
  }
  return [...placed, ...placeImages(images, placed)];
}

/** Chips on the board match no slot; their names must not take one. */
const withoutSoldered = (
  { devices }: Evidence,
  names: readonly { locator?: string | undefined; bankLocator?: string | undefined }[],
) => names.map((name, at) => (devices[at]?.soldered ? {} : name));

/** `A2.bin` speaks for its only image. */
function fileNames({ name, devices }: Evidence, _at: number): { locator?: string } {
  if (devices.length > 1) return {};
  const stem = name.replace(/\.[a-z0-9]+$/i, '').replace(/^(?:spd|eeprom|image)[\s_-]*/i, '');
  return stem === '' ? {} : { locator: stem };
}

const tidy = (text: string | undefined) => (text ?? '').toUpperCase().replaceAll(/\s/g, '');

/** Images by serial, then by a part and size only one free slot shows. */
function placeImages(images: readonly Assigned[], placed: readonly Assigned[]): Assigned[] {
  const taken = new Set(
    placed.filter(({ evidence }) => evidence.source === 'spd').map(({ slotId }) => slotId),
  );
  const done: Assigned[] = [];
  const slotsShowing = (test: (claim: DeviceClaim) => boolean) => [
    ...new Set(
      placed.flatMap(({ slotId, claim }) =>
        slotId !== undefined && !taken.has(slotId) && test(claim) ? [slotId] : [],
      ),
    ),
  ];
  const attempt = (
    rule: 'serial' | 'part',
    alike: (image: DeviceClaim, claim: DeviceClaim) => boolean,
  ) => {
    for (const image of images) {
      if (done.some(({ evidence, index }) => evidence === image.evidence && index === image.index))
        continue;
      const slots = slotsShowing((claim) => alike(image.claim, claim));
      const twins = images.filter((other) => alike(image.claim, other.claim)).length;
      // As many alike images as slots that show them: any order is right, since they are alike.
      const [slotId] = slots;
      if (slotId === undefined || slots.length > Math.max(1, twins)) continue;
      taken.add(slotId);
      done.push({ ...image, slotId, match: { rule, confidence: MATCH_CONFIDENCE[rule] } });
    }
  };
  attempt('serial', (a, b) => a.serial !== undefined && tidy(a.serial) === tidy(b.serial));
  attempt(
    'part',
    (a, b) =>
      a.partNumber !== undefined &&
      tidy(a.partNumber) === tidy(b.partNumber) &&
      (a.capacity === undefined || b.capacity === undefined || a.capacity === b.capacity),
  );
  const left = images.filter(
    (image) =>
      !done.some(({ evidence, index }) => evidence === image.evidence && index === image.index),
  );
  return [...done, ...left];
}
