import type { BoardFacts, DeviceClaim, InventoryReading } from '../inventory/index.ts';
import { SLOT_LIMIT, plainMachine } from '../machine/index.ts';
import type { Machine, Placement, Slot, SolderedPart, UnevenTrait } from '../machine/index.ts';
import type { FormFactor, MemoryModule } from '../memory/index.ts';
import { sensibleName } from './firmwareNames.ts';
import { readLocator } from './locators.ts';
import { moduleOfClaim } from './moduleOfClaim.ts';

/** What had to be supposed to make a machine of an inventory. */
export type MachineGuess =
  | { readonly type: 'channels-guessed'; readonly channels: number }
  | { readonly type: 'maximum-below-fitted'; readonly maximum: number; readonly fitted: number }
  | { readonly type: 'places-left-out'; readonly count: number };

/** A machine and what sits in it, as an inventory alone describes them. */
export interface MachinePicture {
  readonly machine: Machine;
  readonly placement: Placement;
  readonly guesses: readonly MachineGuess[];
}

/**
 * A machine from one inventory, without typing: a slot for each place that is not soldered, channels
 * by the locators, the uneven-channel trait from the address map. All else stays unknown.
 *
 * @returns `undefined` when the inventory names no place or no module tells the generation
 */
export function machineFromInventory(
  reading: Pick<InventoryReading, 'devices' | 'board'>,
): MachinePicture | undefined {
  const guesses: MachineGuess[] = [];
  const modules = new Map(reading.devices.map((claim) => [claim, moduleOfClaim(claim)]));
  const first = [...modules.values()].find((module) => module !== undefined);
  if (!first) return undefined;
  const places = reading.devices.filter(({ soldered }) => !soldered);
  if (places.length > SLOT_LIMIT)
    guesses.push({ type: 'places-left-out', count: places.length - SLOT_LIMIT });
  const { channels, channelOf } = channelsOf(reading.devices, guesses);
  const slots: Slot[] = [];
  const placement: Record<string, MemoryModule> = {};
  for (const claim of places.slice(0, SLOT_LIMIT)) {
    const id = `s${slots.length + 1}`;
    slots.push({ id, printedName: uniqueName(claim, slots), channels: [channelOf(claim)] });
    const module = modules.get(claim);
    if (module) placement[id] = module;
  }
  const chips = reading.devices.flatMap((claim): SolderedPart[] => {
    const part = modules.get(claim);
    return claim.soldered && part ? [{ channel: channelOf(claim), part }] : [];
  });
  const soldered = chips.slice(0, SLOT_LIMIT);
  if (chips.length > SLOT_LIMIT)
    guesses.push({ type: 'places-left-out', count: chips.length - SLOT_LIMIT });
  const { board } = reading;
  const machine: Machine = {
    ...plainMachine({
      name: (board && sensibleName(board)) ?? 'Machine from its files',
      ...kindAndForm([...modules.values()], soldered.length > 0),
      ...{ generation: first.generation, channels: channels.length, slotsPerChannel: 0 },
    }),
    ...{ channels, slots, soldered },
    generations: [first.generation],
    bufferings: [first.buffering],
    ...(board?.errorCorrection ? { ecc: 'works' as const } : {}),
    ...maximumOf(board, [...modules.values()], guesses),
    unevenChannels: unevenTrait(board, reading.devices, channelOf),
  };
  return { machine, placement, guesses };
}

function kindAndForm(
  modules: readonly (MemoryModule | undefined)[],
  isSoldered: boolean,
): { kind: Machine['kind']; formFactor: FormFactor } {
  const form = modules.find((module) => module && module.formFactor !== 'soldered')?.formFactor;
  const formFactor = form ?? (isSoldered ? 'SODIMM' : 'DIMM');
  const driven = modules.some((module) => module && module.buffering !== 'unbuffered');
  return {
    formFactor,
    kind: driven ? 'workstation' : formFactor === 'DIMM' ? 'desktop' : 'laptop',
  };
}

function uniqueName({ locator, bankLocator }: DeviceClaim, taken: readonly Slot[]): string {
  const isFree = (name: string) => !taken.some(({ printedName }) => printedName === name);
  const wanted = [locator, [locator, bankLocator].filter(Boolean).join(' ')];
  const name = wanted.find((one) => one !== undefined && one !== '' && isFree(one));
  const cut = name?.slice(0, 40).trim();
  return cut && isFree(cut) ? cut : `Slot ${taken.length + 1}`;
}

/** Channels by the locators' words; halves of the list where they name none. */
function channelsOf(
  devices: readonly DeviceClaim[],
  guesses: MachineGuess[],
): { channels: string[]; channelOf: (claim: DeviceClaim) => string } {
  const named = devices.map((claim) => readLocator(claim).channel);
  const letter = (at: number) => String.fromCharCode(65 + (at % 16));
  if (named.every((channel) => channel !== undefined)) {
    const distinct = [...new Set(named)].sort();
    const areLetters = distinct.every((name) => /^[A-P]$/.test(name));
    const channels = distinct.map((name, at) => (areLetters ? name : letter(at)));
    return {
      channels,
      channelOf: (claim) => channels[distinct.indexOf(readLocator(claim).channel ?? '')] ?? 'A',
    };
  }
  const count = devices.length > 1 ? 2 : 1;
  if (count > 1) guesses.push({ type: 'channels-guessed', channels: count });
  const half = Math.ceil(devices.length / count);
  return {
    channels: Array.from({ length: count }, (_, at) => letter(at)),
    channelOf: (claim) => letter(Math.floor(devices.indexOf(claim) / half)),
  };
}

function maximumOf(
  board: BoardFacts | undefined,
  modules: readonly (MemoryModule | undefined)[],
  guesses: MachineGuess[],
): Pick<Machine, 'maxTotal'> | undefined {
  const maximum = board?.maxTotal;
  if (maximum === undefined) return undefined;
  const fitted = modules.reduce((sum, module) => sum + (module?.capacity ?? 0), 0);
  // A claim the modules themselves disprove is no limit.
  if (maximum >= fitted) return { maxTotal: maximum };
  guesses.push({ type: 'maximum-below-fitted', maximum, fitted });
  return undefined;
}

/** Uneven channels that are interleaved prove zones; uneven ones that are not prove the opposite. */
function unevenTrait(
  board: BoardFacts | undefined,
  devices: readonly DeviceClaim[],
  channelOf: (claim: DeviceClaim) => string,
): UnevenTrait {
  const loads = new Map<string, number>();
  for (const claim of devices)
    if (claim.capacity)
      loads.set(channelOf(claim), (loads.get(channelOf(claim)) ?? 0) + claim.capacity);
  const isUneven = new Set(loads.values()).size > 1;
  if (!isUneven || board === undefined || board.interleaves === 'unknown') return 'unknown';
  return board.interleaves === 'yes' ? 'zone' : 'single';
}
