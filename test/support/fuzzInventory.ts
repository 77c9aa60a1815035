import { performance } from 'node:perf_hooks';
import {
  decodeText,
  readInventory,
  readScreen,
  systemOf,
  unpackCollected,
  writeCim,
  writeCollected,
  writeSmbios,
  writeSpd,
} from '#core/inventory';
import type { MemoryModule } from '#core/memory';
import { readDocument, reconcile } from '#core/reconciling';
import { desktop, labelled } from './builders.ts';

/** What a run of the fuzzer found. */
export interface FuzzReport {
  readonly inputs: number;
  /** The slowest reading that stayed slow when repeated, ms. */
  readonly slowestMs: number;
  /** Inputs that made a reader throw, as hex, with the error. */
  readonly thrown: readonly string[];
  /** Readings by kind, to see that mutants still reach every reader. */
  readonly kinds: Readonly<Record<string, number>>;
}

const LABELS = [
  '1GB 2Rx8 PC2-6400U-666-12 TV-1U08',
  '8GB 2Rx8 PC3L-12800S-11-13-F3 TD-8L16',
  '16GB 2Rx8 PC4-2666V-SE1-11 TV-16S26',
  '16GB 1Rx8 PC5-4800B-UA0-1010 TV-16U48',
];

/** A small generator with a seed, so that a finding can be found again. */
export function generator(seed: number): (below: number) => number {
  let state = seed >>> 0;
  return (below) => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) % below;
  };
}

export function corpus(): Uint8Array[] {
  const utf8 = (text: string) => new TextEncoder().encode(text);
  const modules = LABELS.map((label) => labelled(label));
  const images = modules.flatMap((module: MemoryModule) => {
    const spd = writeSpd({ ...module, maker: '3-4F' });
    return spd.ok ? [spd.value] : [];
  });
  const machine = desktop();
  const [, , sodimm, dimm] = modules;
  const placement = { a1: { ...(sodimm as MemoryModule), formFactor: 'DIMM' as const }, b1: dimm };
  const dump = writeSmbios(machine, placement, { configuredRate: 2666, mapsAddresses: true });
  const hex = [...(images[0] ?? [])].map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
  const listing =
    'Handle 0x0002, DMI type 16, 23 bytes\nPhysical Memory Array\n\tUse: System Memory\n\tMaximum Capacity: 64 GB\n\tNumber Of Devices: 2\n\nHandle 0x0011, DMI type 17, 84 bytes\nMemory Device\n\tArray Handle: 0x0002\n\tSize: 8 GB\n\tLocator: DIMM_A1\n\tType: DDR4\n\tSpeed: 2666 MT/s\n\tRank: 1\n\nHandle 0x0012, DMI type 20, 35 bytes\n\tPhysical Device Handle: 0x0011\n\tInterleave Position: 1\n';
  const cim = writeCim(machine, placement, 2666);
  const screen = 'DIMM_A1: 8192 MB @ 1200 MHz\nB1 - empty\n';
  const report =
    '{"SPMemoryDataType":[{"_items":[{"_name":"BANK 0/DIMM0","dimm_size":"8 GB","dimm_speed":"2667 MHz","dimm_type":"DDR4","dimm_part_number":"0x534B2D31"}]}]}';
  const collected = writeCollected({
    ...{ shell: 'unix', collectedAt: '2026-11-02T09:30:00Z' },
    parts: [
      { kind: 'smbios-table', from: 'DMI', bytes: dump.slice(32) },
      { kind: 'memory-instances', from: 'CIM', bytes: utf8(cim) },
    ],
    facts: [{ name: 'memory-visible', value: '16252928', from: 'meminfo' }],
    notRead: [{ what: 'images', why: 'none' }],
  });
  return [
    ...[...images, dump, dump.slice(32), utf8(hex), utf8(listing), utf8(cim), utf8(screen)],
    ...[utf8(report), utf8(collected)],
  ];
}

/** One change of an input: bits, a cut, a run of one byte, a piece of another input, a repeat. */
export function mutate(
  bytes: Uint8Array,
  other: Uint8Array,
  below: (n: number) => number,
): Uint8Array {
  const at = below(bytes.length + 1);
  switch (below(7)) {
    case 0: {
      const flipped = Uint8Array.from(bytes);
      for (let n = below(8); n >= 0; n--) {
        const where = below(bytes.length || 1);
        flipped[where] = (flipped[where] ?? 0) ^ (1 << below(8));
      }
      return flipped;
    }
    case 1:
      return bytes.slice(0, at);
    case 2:
      return Uint8Array.from(bytes).fill(below(2) * 255, at, at + below(256));
    case 3:
      return Uint8Array.from([...bytes.slice(0, at), ...other.slice(below(other.length + 1))]);
    case 4:
      return Uint8Array.from([...bytes, ...bytes.slice(at)]);
    case 5: {
      const set = Uint8Array.from(bytes);
      for (let n = 0; n < 16; n++) set[below(set.length || 1)] = below(256);
      return set;
    }
    default:
      return Uint8Array.from({ length: below(2048) }, () => below(256));
  }
}

/** Everything a dropped file goes through. */
function readAll(bytes: Uint8Array): string {
  const reading = readInventory(bytes);
  if (reading.collected) systemOf(reading.collected);
  for (const part of unpackCollected({ name: 'x', bytes })) readInventory(part.bytes);
  readScreen(decodeText(bytes.subarray(0, 4096)));
  const { evidence } = readDocument({ id: 'x', kind: 'file', name: 'x', bytes });
  reconcile({ machine: desktop(), evidence: [evidence] });
  return reading.kind;
}

/**
 * Feeds all readers with random and mutated inputs.
 *
 * @param inputs - how many
 * @param seed - the same seed gives the same inputs
 */
export function fuzzInventory(inputs: number, seed: number): FuzzReport {
  const below = generator(seed);
  const start = corpus();
  const thrown: string[] = [];
  const kinds: Record<string, number> = {};
  let slowestMs = 0;
  const pick = () => start[below(start.length)] ?? new Uint8Array();
  for (let n = 0; n < inputs; n++) {
    let bytes = pick();
    for (let rounds = below(3); rounds >= 0; rounds--) bytes = mutate(bytes, pick(), below);
    try {
      let took = Infinity;
      // Another process may take the core meanwhile; what is slow by itself is slow every time.
      for (let tries = 0; tries < 4 && took > 5; tries++) {
        const from = performance.now();
        const kind = readAll(bytes);
        took = Math.min(took, performance.now() - from);
        if (tries === 0) kinds[kind] = (kinds[kind] ?? 0) + 1;
      }
      slowestMs = Math.max(slowestMs, took);
    } catch (error) {
      const hex = [...bytes.subarray(0, 2048)]
        .map((byte) => byte.toString(16).padStart(2, '0'))
        .join('');
      thrown.push(`${String((error as Error).stack)}\n${hex}`);
    }
  }
  return { inputs, slowestMs, thrown, kinds };
}
