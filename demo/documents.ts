import { readFileSync } from 'node:fs';
import { writeCim, writeCollected, writeSmbios, writeSpd } from '#core/inventory';
import type { Collected, CollectedFact, SmbiosStyle } from '#core/inventory';
import type { Machine, Placement } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import type { NeedInput } from '#core/need';
import type { DocumentKind } from '#core/reconciling';
import { sumGib } from '#core/units';

/** A piece of evidence of the demo world. */
export interface DemoDocument {
  readonly kind: DocumentKind;
  readonly name: string;
  readonly content: Uint8Array;
  readonly slotIds: readonly string[];
  /** What a label was read off. */
  readonly photo?: Uint8Array;
}

const utf8 = (text: string) => new TextEncoder().encode(text);

/** The dump a machine's firmware would leave. */
export const dump = (
  name: string,
  machine: Machine,
  placement: Placement,
  style?: SmbiosStyle,
): DemoDocument => ({
  ...{ kind: 'file', name, slotIds: [] },
  content: writeSmbios(machine, placement, style),
});

/** What its operating system would export. */
export const systemList = (
  machine: Machine,
  placement: Placement,
  rate?: number,
): DemoDocument => ({
  ...{ kind: 'file', name: 'physical-memory.json', slotIds: [] },
  content: utf8(writeCim(machine, placement, rate)),
});

/** Figures of a running system: GiB it may use, the most seen in use, and what it pages to. */
interface Running {
  readonly visible: number;
  readonly peak: number;
  /** MiB brought back from the drive while it was watched. */
  readonly pagedIn: number;
  readonly power: string;
}

/** What the collecting script would write on a machine watched for ten minutes. */
export function collected(
  shell: Collected['shell'],
  parts: Collected['parts'],
  { visible, peak, pagedIn, power }: Running,
): DemoDocument {
  const kib = (gib: number) => String(Math.round(gib * 2 ** 20));
  const facts: CollectedFact[] = [
    { name: 'memory-visible', value: kib(visible), from: 'CIM_OperatingSystem' },
    { name: 'memory-peak', value: kib(peak), from: 'CIM_OperatingSystem' },
    { name: 'watched-for', value: '600', from: 'clock' },
    { name: 'paged-in', value: String(pagedIn * 1024), from: 'page file usage' },
    { name: 'system-bits', value: '64', from: 'Environment' },
    { name: 'drive-kind', value: 'solid state', from: 'Get-PhysicalDisk' },
    { name: 'power-source', value: power, from: 'CIM_Battery' },
  ];
  const notRead = [{ what: 'images of the modules', why: 'this system shows none' }];
  return {
    ...{ kind: 'file', name: 'collected.json', slotIds: [] },
    content: utf8(
      writeCollected({ shell, collectedAt: '2026-11-20T08:15:00Z', parts, facts, notRead }),
    ),
  };
}

/** Of the memory a system may use, the most a usual day takes and a day that brings it here. */
const USUAL_PEAK = 0.72;
const FULL_PEAK = 0.96;

/** The figures of a machine watched at the counter, where its tables came by other ways. */
export function watched(machine: Machine, placement: Placement, need?: NeedInput): DemoDocument {
  const fitted = sumGib([
    ...Object.values(placement).flatMap((module) => (module ? [module.capacity] : [])),
    ...machine.soldered.map(({ part }) => part.capacity),
  ]);
  const limit = machine.osLimit === 'none' ? Infinity : machine.osLimit.high;
  const visible = Math.min(limit, fitted - machine.graphicsCarveOut.low - 0.1);
  const isFull = need?.peak?.paging === true;
  const peak = Math.min(need?.peak?.gib ?? Infinity, visible * (isFull ? FULL_PEAK : USUAL_PEAK));
  const running = { visible, peak, pagedIn: isFull ? 640 : 0, power: 'mains' };
  return collected('cim', [], running);
}

/** The EEPROM of a module, as a binary image. */
export function spd(name: string, module: MemoryModule, serial: string): DemoDocument {
  const image = writeSpd(module, { serial, made: { year: 2023, week: 14 } });
  if (!image.ok) throw new Error(`expected an image of ${name}: ${JSON.stringify(image.error)}`);
  return { kind: 'file', name, slotIds: [], content: image.value };
}

/** The same as a dump tool prints it. */
export function spdText(name: string, module: MemoryModule, serial: string): DemoDocument {
  const { content } = spd(name, module, serial);
  const rows = Array.from({ length: content.length / 16 }, (_, row) => {
    const bytes = [...content.subarray(row * 16, row * 16 + 16)];
    const hex = bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
    return `${(row * 16).toString(16).padStart(4, '0')}: ${hex}`;
  });
  return { kind: 'file', name, slotIds: [], content: utf8(`${rows.join('\r\n')}\r\n`) };
}

/** Several images one after another, as a reader of all slots leaves them. */
export const spdFile = (name: string, parts: readonly DemoDocument[]): DemoDocument => ({
  ...{ kind: 'file', name, slotIds: [] },
  content: Uint8Array.from(parts.flatMap(({ content }) => [...content])),
});

export const sticker = (label: string, slotId: string): DemoDocument => ({
  ...{ kind: 'sticker', name: 'sticker', slotIds: [slotId], content: utf8(label) },
});

/** A label read off a photo of `demo/photos/`. */
export const stickerPhoto = (label: string, slotId: string, photo: string): DemoDocument => ({
  ...{ ...sticker(label, slotId), kind: 'photo' },
  photo: readFileSync(new URL(`photos/${photo}.jpg`, import.meta.url)),
});

export const look = (seen: 'module' | 'empty', slotId: string): DemoDocument => ({
  ...{ kind: 'eyes', name: 'a look', slotIds: [slotId], content: utf8(seen) },
});

export const screen = (text: string): DemoDocument => ({
  ...{ kind: 'screen', name: 'firmware screen', slotIds: [], content: utf8(text) },
});
