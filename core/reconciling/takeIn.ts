import type { RememberedLocators } from './locators.ts';
import type { Machine, Placement, Setting } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { Gibibytes } from '../units/index.ts';
import { firmwareKey, isNamed } from './firmwareNames.ts';
import { isSameBoard } from './lookAlike.ts';
import { machineFromInventory } from './machineFromInventory.ts';
import type { MachinePicture } from './machineFromInventory.ts';
import type { ReadDocument } from './readDocument.ts';
import { reconcile } from './reconcile.ts';
import type { Question, Reconciled } from './reconcile.ts';

/** A machine of the library, as far as it can be known again. */
export interface KnownMachine {
  readonly id: string;
  readonly machine: Machine;
  /** Firmware names of machines the shop took for this one; see {@link firmwareKey}. */
  readonly knownAs: readonly string[];
  readonly locators: RememberedLocators;
}

/** How a machine of the library differs from what the files list. */
export type Difference =
  | { readonly type: 'slots'; readonly stated: number; readonly listed: number }
  | { readonly type: 'generation'; readonly listed: string }
  | { readonly type: 'maximum'; readonly stated: Gibibytes; readonly listed: Gibibytes };

/** A machine of the library that the files describe. */
export interface Recognised<Known extends KnownMachine = KnownMachine> {
  readonly known: Known;
  /** `board`: the same board in a machine of another name, which is another machine. */
  readonly by: 'firmware' | 'name' | 'board';
  readonly differs: readonly Difference[];
}

/** What files that came with a machine say of which machine it is. */
export type TakenIn<Known extends KnownMachine = KnownMachine> =
  | { readonly type: 'several-machines'; readonly names: readonly string[] }
  /** No file lists the places for memory: the machine is chosen or described by hand. */
  | { readonly type: 'no-places' }
  | {
      readonly type: 'machine';
      readonly picture: MachinePicture;
      /** What the firmware calls it; absent where it names neither system nor board. */
      readonly key: string | undefined;
      /** Those of the library it may be, the likeliest first. */
      readonly recognised: readonly Recognised<Known>[];
    };

/** Says which machine files are from: one of the library, a new one, or more than one. */
export function takeIn<Known extends KnownMachine>(
  reads: readonly ReadDocument[],
  library: readonly Known[],
): TakenIn<Known> {
  const within = reads.flatMap(({ findings }) =>
    findings.flatMap((one) => (one.type === 'several-machines' ? one.names : [])),
  );
  const byKey = new Map(
    reads.flatMap(({ board }) => {
      const key = board && firmwareKey(board);
      return key === undefined ? [] : [[key, board?.systemName ?? board?.boardName ?? key]];
    }),
  );
  if (within.length > 0) return { type: 'several-machines', names: [...new Set(within)] };
  if (byKey.size > 1) return { type: 'several-machines', names: [...byKey.values()] };
  const board = reads.find((one) => one.board)?.board;
  // The fullest list lists the empty places too; one that names no kind of memory makes no machine.
  const picture = reads
    .filter(({ kind, evidence }) => kind !== 'spd' && evidence.devices.length > 0)
    .sort((a, b) => b.evidence.devices.length - a.evidence.devices.length)
    .map(({ evidence }) => machineFromInventory({ devices: evidence.devices, board }))
    .find((one) => one !== undefined);
  if (!picture) return { type: 'no-places' };
  const key = board && firmwareKey(board);
  const recognised = library
    .flatMap((known): Recognised<Known>[] => {
      const by =
        key !== undefined && known.knownAs.includes(key)
          ? 'firmware'
          : board && isNamed(known.machine.name, board)
            ? 'name'
            : key !== undefined && known.knownAs.some((one) => isSameBoard(key, one))
              ? 'board'
              : undefined;
      return by ? [{ known, by, differs: differences(known.machine, picture.machine, reads) }] : [];
    })
    .sort((a, b) => rank(a) - rank(b));
  return { type: 'machine', picture, key, recognised };
}

const DOUBT = { firmware: 0, name: 1, board: 100 } as const;
const rank = ({ by, differs }: Recognised) => 2 * differs.length + DOUBT[by];

function differences(
  stated: Machine,
  listed: Machine,
  reads: readonly ReadDocument[],
): Difference[] {
  // An operating system lists filled places only; only a firmware table tells how many there are.
  const counts = reads.some(({ kind }) => kind === 'smbios' || kind === 'smbios-listing');
  const isMissing = counts
    ? stated.slots.length !== listed.slots.length
    : stated.slots.length < listed.slots.length;
  return [
    ...(isMissing
      ? [{ type: 'slots' as const, stated: stated.slots.length, listed: listed.slots.length }]
      : []),
    ...listed.generations
      .filter((one) => !stated.generations.includes(one))
      .map((one) => ({ type: 'generation' as const, listed: one })),
    ...maximumDiffers(stated, listed),
  ];
}

/** What a firmware claims at most is often too low; another machine is one that claims more. */
function maximumDiffers(stated: Machine, listed: Machine): Difference[] {
  return typeof stated.maxTotal === 'number' &&
    typeof listed.maxTotal === 'number' &&
    listed.maxTotal > stated.maxTotal
    ? [{ type: 'maximum', stated: stated.maxTotal, listed: listed.maxTotal }]
    : [];
}

/** What sits in a machine, by its files alone. */
export interface FoundByFiles {
  readonly reconciled: Reconciled;
  readonly placement: Placement;
  readonly setting: Setting;
  /** What has to be answered before it can be written down as found; empty where nothing is open. */
  readonly asks: readonly Question[];
}

/** Slots nobody looked into count as empty until someone does; a guess of a slot is asked later. */
const CAN_WAIT: readonly Question['type'][] = ['look', 'unsure-slot'];

/** What files say is fitted in a machine, and whether anything has to be asked first. */
export function foundByFiles(
  machine: Machine,
  reads: readonly ReadDocument[],
  remembered: RememberedLocators = {},
): FoundByFiles {
  const evidence = reads.map((one) => one.evidence);
  const reconciled = reconcile({ machine, evidence, remembered });
  const { placement, questions } = reconciled;
  return {
    ...{ reconciled, placement, setting: settingShown(machine, reconciled) },
    asks: questions.filter(({ type }) => !CAN_WAIT.includes(type)),
  };
}

/** Within this share two rates are the same, however a firmware rounds. */
const SAME_RATE = 0.01;

/**
 * The firmware setting, by the rate the machine says it runs at: the overclock profile where only
 * that explains it, otherwise the standard one.
 */
export function settingShown(machine: Machine, { slots, placement }: Reconciled): Setting {
  const set = slots.flatMap(({ rows }) => {
    const value = rows.find(({ field }) => field === 'set to')?.chosen.value;
    return typeof value === 'number' ? [value] : [];
  });
  const explains = (setting: Setting) => {
    const point = operatingPoint(machine, placement, setting);
    return (
      point.type === 'runs' &&
      set.every((rate) => Math.abs(rate - point.rate) <= SAME_RATE * point.rate)
    );
  };
  return set.length > 0 && !explains('standard') && explains('profile') ? 'profile' : 'standard';
}
