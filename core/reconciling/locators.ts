import type { Machine, Slot, SlotId } from '../machine/index.ts';

/** How a locator was matched to a slot, the surest first. */
export type LocatorRule =
  | 'remembered'
  | 'printed name'
  | 'channel and number'
  | 'only slot of its channel'
  | 'number'
  | 'order'
  | 'no match';

/** Also by what a person said, or, for images that name no place, by serial or part. */
export type MatchRule = LocatorRule | 'said' | 'serial' | 'part';

/** Confidence of each rule: shares of boards on which it holds, as stated assumptions. */
export const MATCH_CONFIDENCE: Readonly<Record<MatchRule, number>> = {
  said: 1,
  remembered: 1,
  'printed name': 0.98,
  serial: 0.97,
  'channel and number': 0.9,
  'only slot of its channel': 0.8,
  part: 0.76,
  number: 0.6,
  order: 0.4,
  'no match': 0,
};

/** A place as some firmware names it. */
export interface LocatorNames {
  readonly locator?: string | undefined;
  readonly bankLocator?: string | undefined;
}

/** Where a locator belongs, and how surely. */
export interface LocatorMatch {
  readonly slotId?: SlotId | undefined;
  readonly rule: MatchRule;
  readonly confidence: number;
}

/** Where the shop once said a locator of a machine belongs; `none` = no such slot on the board. */
export type RememberedLocators = Readonly<Record<string, SlotId | 'none'>>;

/** The key a locator is remembered under. */
export function locatorKey({ locator = '', bankLocator = '' }: LocatorNames): string {
  return [plain(locator), plain(bankLocator)].filter(Boolean).join('/');
}

const plain = (text: string) => text.toUpperCase().replaceAll(/[^A-Z0-9]/g, '');

/** What a locator's words say: a channel (with its controller) and a number. */
export interface LocatorParts {
  readonly channel?: string | undefined;
  readonly number?: number | undefined;
}

/**
 * Takes a locator apart: `ChannelA-DIMM1`, `DIMM_B2`, `P0 CHANNEL B` with `DIMM 0`, `Controller1-
 * ChannelA-DIMM0`, `BANK 3`. A bank's number counts only where no channel is named.
 */
export function readLocator({ locator = '', bankLocator = '' }: LocatorNames): LocatorParts {
  const own = locator.toUpperCase();
  const bank = bankLocator.toUpperCase();
  const channel = channelIn(own) ?? channelIn(bank);
  const number = numberIn(own) ?? (channel === undefined ? numberIn(bank) : undefined);
  return { channel, number };
}

function channelIn(text: string): string | undefined {
  const named = /CH(?:ANNEL|AN|NL)?[\s_-]*([A-P]|\d)(?![A-Z])/.exec(text)?.[1];
  const lettered =
    /(?:DIMM|SLOT|SO|CPU\d+|P\d+|MEM)[\s_-]*([A-P])[\s_-]*\d{0,2}(?![A-Z0-9])/.exec(text)?.[1] ??
    /^([A-P])[\s_-]*\d{1,2}$/.exec(text.trim())?.[1];
  const channel = named ?? lettered;
  if (channel === undefined) return undefined;
  const controller =
    /(?:CONTROLLER|CPU|NODE|(?<![A-Z])P|(?<![A-Z])MC)[\s_-]*(\d)/.exec(text)?.[1] ?? '';
  return controller + channel;
}

/** The last number of the name: the place within its channel, or in all. */
function numberIn(text: string): number | undefined {
  const withoutChannel = text.replaceAll(
    /(?:CONTROLLER|CHANNEL|NODE|CPU|(?<![A-Z])P)[\s_-]*\d/g,
    ' ',
  );
  const digits = /(\d{1,2})\D*$/.exec(withoutChannel)?.[1];
  return digits === undefined ? undefined : Number(digits);
}

const byName = (a: Slot, b: Slot) =>
  a.printedName.localeCompare(b.printedName, 'en', { numeric: true });

/**
 * Matches the places one source lists to a machine's slots, each slot once. Rules are tried from
 * the surest to the weakest over the whole list, so a sure match is never taken by a guess.
 *
 * @param remembered - what a person said before, for this machine; outranks all
 */
export function matchLocators(
  machine: Pick<Machine, 'slots' | 'channels'>,
  names: readonly LocatorNames[],
  remembered: RememberedLocators = {},
): LocatorMatch[] {
  const matches: (LocatorMatch | undefined)[] = names.map(() => undefined);
  const free = () => machine.slots.filter(({ id }) => !matches.some((one) => one?.slotId === id));
  const parts = names.map(readLocator);
  /** Tries a rule on every unmatched name; two names that want one slot both go without. */
  const attempt = (rule: LocatorRule, find: (at: number) => SlotId | undefined) => {
    const open = free().map(({ id }) => id);
    const wanted = names.map((_, at) => (matches[at] ? undefined : find(at)));
    wanted.forEach((slotId, at) => {
      if (slotId === undefined || !open.includes(slotId)) return;
      if (wanted.filter((other) => other === slotId).length > 1) return;
      matches[at] = { slotId, rule, confidence: MATCH_CONFIDENCE[rule] };
    });
  };

  names.forEach((name, at) => {
    const said = remembered[locatorKey(name)];
    if (said === undefined) return;
    const isSlot = machine.slots.some(({ id }) => id === said);
    if (isSlot || said === 'none')
      matches[at] = { ...(isSlot ? { slotId: said } : {}), rule: 'remembered', confidence: 1 };
  });
  attempt('printed name', (at) => slotByName(machine.slots, names[at] ?? {}));
  const channelOf = channelNames(machine, parts);
  const base = countingBase(parts.filter(({ channel }) => channel !== undefined));
  attempt('channel and number', (at) => {
    const { channel, number } = parts[at] ?? {};
    if (channel === undefined || number === undefined) return undefined;
    return slotsOf(machine, channelOf(channel))[number - base]?.id;
  });
  attempt('only slot of its channel', (at) => {
    const { channel } = parts[at] ?? {};
    const own = channel === undefined ? [] : slotsOf(machine, channelOf(channel));
    return own.length === 1 ? own[0]?.id : undefined;
  });
  const ordered = [...machine.slots].sort(byName);
  const plainBase = countingBase(parts);
  attempt('number', (at) => {
    const { channel, number } = parts[at] ?? {};
    return channel !== undefined || number === undefined
      ? undefined
      : ordered[number - plainBase]?.id;
  });
  const left = names.flatMap((_, at) => (matches[at] ? [] : [at]));
  const rest = free();
  if (left.length === rest.length) attempt('order', (at) => rest[left.indexOf(at)]?.id);
  return matches.map((one) => one ?? { rule: 'no match', confidence: 0 });
}

function slotByName(
  slots: readonly Slot[],
  { locator, bankLocator }: LocatorNames,
): SlotId | undefined {
  for (const text of [locator, bankLocator]) {
    const name = plain(text ?? '');
    if (name === '') continue;
    const exact = slots.find(({ printedName }) => plain(printedName) === name);
    if (exact) return exact.id;
    // "DIMM_A1" for a slot printed "A1", and the other way round.
    const bare = (value: string) => value.replace(/^(?:DIMM|SODIMM|SLOT|MEM|SO)+(?=[A-Z]?\d)/, '');
    const close = slots.filter(({ printedName }) => bare(plain(printedName)) === bare(name));
    if (close.length === 1) return close[0]?.id;
  }
  return undefined;
}

const slotsOf = ({ slots }: Pick<Machine, 'slots'>, channel: string | undefined) =>
  slots.filter(({ channels }) => channels[0] === channel).sort(byName);

/** Numbers start at 0 on some firmware and at 1 on others; one 0 in the list decides it. */
function countingBase(parts: readonly LocatorParts[]): number {
  return parts.some(({ number }) => number === 0) ? 0 : 1;
}

/**
 * The machine's channel for a channel as named: the same letter, or by order where the source
 * counts channels or puts a controller before them.
 */
function channelNames(
  { channels }: Pick<Machine, 'channels'>,
  parts: readonly LocatorParts[],
): (named: string) => string | undefined {
  const named = [...new Set(parts.flatMap(({ channel }) => channel ?? []))].sort();
  const areLetters = named.every((name) => channels.includes(name));
  return (name) => (areLetters ? name : channels[named.indexOf(name)]);
}
