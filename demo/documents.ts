import { writeCim, writeSmbios, writeSpd } from '#core/inventory';
import type { SmbiosStyle } from '#core/inventory';
import type { Machine, Placement } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import type { DocumentKind } from '#core/reconciling';

/** A piece of evidence of the demo world. */
export interface DemoDocument {
  readonly kind: DocumentKind;
  readonly name: string;
  readonly content: Uint8Array;
  readonly slotIds: readonly string[];
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

export const look = (seen: 'module' | 'empty', slotId: string): DemoDocument => ({
  ...{ kind: 'eyes', name: 'a look', slotIds: [slotId], content: utf8(seen) },
});

export const screen = (text: string): DemoDocument => ({
  ...{ kind: 'screen', name: 'firmware screen', slotIds: [], content: utf8(text) },
});
