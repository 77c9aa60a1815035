import type { Machine, Placement } from '../../machine/index.ts';
import type { Generation, MemoryModule } from '../../memory/index.ts';
import { makerToBytes, readMakerCode } from '../maker.ts';
import { sum8 } from '../spd/checksums.ts';
import { FORM_FACTOR_CODES, MEMORY_TYPES } from './codes.ts';

/** How a firmware describes a machine; what it says need not be what is there. */
export interface SmbiosStyle {
  /** The locator it prints for a slot. */
  readonly locatorOf?: ((slotId: string) => string) | undefined;
  readonly bankOf?: ((slotId: string) => string) | undefined;
  /** MT/s the modules run at; absent = not stated. */
  readonly configuredRate?: number | undefined;
  /** Older producers print the clock, half the data rate. */
  readonly printsClock?: boolean | undefined;
  /** Whether it states address ranges, and with them interleaving. */
  readonly mapsAddresses?: boolean | undefined;
  /** Channels interleaved as far as the smallest reaches. */
  readonly interleaves?: boolean | undefined;
  /** Slots it lists though the board has none: locators. */
  readonly phantoms?: readonly string[] | undefined;
  readonly serialOf?: ((slotId: string) => string | undefined) | undefined;
  readonly systemMaker?: string | undefined;
}

const ARRAY_HANDLE = 0x1000;
const DEVICE_HANDLE = 0x1100;

/** Writes structures of a table, with strings numbered as they come. */
class TableWriter {
  private readonly bytes: number[] = [];

  /** @param data - the formatted area behind type, length and handle */
  add(type: number, handle: number, length: number, fill: (to: StructureWriter) => void): void {
    const to = new StructureWriter(length);
    to.u8(0, type);
    to.u8(1, length);
    to.u16(2, handle);
    fill(to);
    this.bytes.push(...to.data);
    for (const text of to.strings)
      this.bytes.push(...[...text].map((sign) => sign.charCodeAt(0) & 0x7f), 0);
    if (to.strings.length === 0) this.bytes.push(0);
    this.bytes.push(0);
  }

  done(): number[] {
    return this.bytes;
  }
}

class StructureWriter {
  readonly data: number[];
  readonly strings: string[] = [];

  constructor(length: number) {
    this.data = Array<number>(length).fill(0);
  }

  u8(at: number, value: number): void {
    this.data[at] = value & 0xff;
  }

  u16(at: number, value: number): void {
    this.u8(at, value);
    this.u8(at + 1, value >> 8);
  }

  u32(at: number, value: number): void {
    this.u16(at, value & 0xffff);
    this.u16(at + 2, Math.floor(value / 65_536));
  }

  u64(at: number, value: number): void {
    this.u32(at, value % 2 ** 32);
    this.u32(at + 4, Math.floor(value / 2 ** 32));
  }

  text(at: number, value: string | undefined): void {
    if (value === undefined || value === '') return;
    this.strings.push(value);
    this.u8(at, this.strings.length);
  }
}

interface Place {
  readonly slotId: string | undefined;
  readonly locator: string;
  readonly bank: string;
  readonly module: MemoryModule | undefined;
  readonly channel: string;
}

const codeOf = <T>(codes: Readonly<Record<number, T>>, value: T): number =>
  Number(Object.entries(codes).find(([, one]) => one === value)?.[0] ?? 2);

/** 4X and 5X have no code of their own. */
const typeCode = (generation: Generation) =>
  codeOf(MEMORY_TYPES, generation.replace(/X$/, '') as Generation);

function placesOf(machine: Machine, placement: Placement, style: SmbiosStyle): Place[] {
  const { locatorOf, bankOf, phantoms = [] } = style;
  return [
    ...machine.soldered.map(({ channel, part }, at): Place => ({
      ...{ slotId: undefined, module: part, channel },
      ...{ locator: `Onboard ${at}`, bank: `Channel ${channel}` },
    })),
    ...machine.slots.map(({ id, printedName, channels }): Place => ({
      ...{ slotId: id, module: placement[id], channel: channels[0] ?? '' },
      locator: locatorOf?.(id) ?? printedName,
      bank: bankOf?.(id) ?? `Channel ${channels.join('')}`,
    })),
    ...phantoms.map((locator): Place => ({
      ...{ slotId: undefined, locator, bank: '', module: undefined, channel: '' },
    })),
  ];
}

/**
 * The SMBIOS dump a machine's firmware would leave: 64-bit entry point and table (DSP0134 3.4),
 * types 1, 2, 4, 16, 17, and 19 and 20 where it maps addresses.
 */
export function writeSmbios(
  machine: Machine,
  placement: Placement,
  style: SmbiosStyle = {},
): Uint8Array {
  const places = placesOf(machine, placement, style);
  const table = new TableWriter();
  table.add(1, 0x0001, 0x1b, (to) => {
    to.text(0x04, style.systemMaker);
    to.text(0x05, machine.name);
  });
  table.add(2, 0x0002, 0x0f, (to) => to.text(0x05, machine.name));
  table.add(4, 0x0004, 0x30, (to) => to.u8(0x18, 0x41));
  table.add(16, ARRAY_HANDLE, 0x17, (to) => {
    to.u8(0x04, 3);
    to.u8(0x05, 3);
    to.u8(0x06, machine.ecc === 'required' ? 6 : 3);
    to.u32(0x07, 0x8000_0000);
    to.u64(0x0f, (machine.maxTotal === 'unknown' ? 0 : machine.maxTotal) * 2 ** 30);
    to.u16(0x0b, 0xfffe);
    to.u16(0x0d, places.length);
  });
  places.forEach((place, at) => addDevice(table, place, at, style));
  if (style.mapsAddresses) addMapping(table, places, style.interleaves === true);
  table.add(127, 0xfeff, 4, () => undefined);
  return withEntryPoint(table.done());
}

function addDevice(table: TableWriter, place: Place, at: number, style: SmbiosStyle): void {
  const { module, slotId } = place;
  table.add(17, DEVICE_HANDLE + at, 0x5c, (to) => {
    to.u16(0x04, ARRAY_HANDLE);
    to.u16(0x06, 0xfffe);
    to.text(0x10, place.locator);
    to.text(0x11, place.bank);
    if (!module) {
      to.u8(0x0e, 0x02);
      to.u8(0x12, 0x02);
      return;
    }
    const mib = module.capacity * 1024;
    to.u16(0x08, module.ecc ? 72 : 64);
    to.u16(0x0a, 64);
    to.u16(0x0c, mib >= 0x7fff ? 0x7fff : mib);
    to.u32(0x1c, mib >= 0x7fff ? mib : 0);
    to.u8(0x0e, codeOf(FORM_FACTOR_CODES, module.formFactor));
    to.u8(0x12, typeCode(module.generation));
    const driven = { unbuffered: 0x4000, registered: 0x2000, 'load-reduced': 0x8000 };
    to.u16(0x13, 0x80 | driven[module.buffering]);
    const shown = (rate: number) => Math.round(style.printsClock ? rate / 2 : rate);
    to.u16(0x15, shown(module.rate));
    to.u8(0x1b, module.ranks === 'unknown' ? 0 : module.ranks);
    if (style.configuredRate !== undefined) to.u16(0x20, shown(style.configuredRate));
    to.u16(0x26, Math.min(...module.voltagesMv));
    const code = module.maker === undefined ? undefined : readMakerCode(module.maker);
    if (code) {
      const [count, byte] = makerToBytes(code);
      to.u8(0x2c, count);
      to.u8(0x2d, byte);
      const hex = (value: number) => value.toString(16).toUpperCase().padStart(2, '0');
      to.text(0x17, `${hex(count)}${hex(byte)}`);
    } else to.text(0x17, 'Not Specified');
    to.text(0x18, (slotId !== undefined && style.serialOf?.(slotId)) || '00000000');
    to.text(0x1a, module.partNumber ?? 'Not Specified');
  });
}

/** Types 19 and 20: one range; a device that is wider than the smallest channel is mapped twice. */
function addMapping(table: TableWriter, places: readonly Place[], interleaves: boolean): void {
  const filled = places.map((place, at) => ({ ...place, at })).filter(({ module }) => module);
  const channels = [...new Set(filled.map(({ channel }) => channel))];
  const inChannel = (channel: string) =>
    filled
      .filter((one) => one.channel === channel)
      .reduce((sum, one) => sum + (one.module?.capacity ?? 0), 0);
  const smallest = Math.min(...channels.map(inChannel));
  const width = interleaves ? channels.length : 1;
  table.add(19, 0x1300, 0x1f, (to) => {
    to.u32(0x08, 0xffff_ffff);
    to.u16(0x0c, ARRAY_HANDLE);
    to.u8(0x0e, width);
  });
  let handle = 0x1400;
  const map = (device: number, position: number) =>
    table.add(20, handle++, 0x23, (to) => {
      to.u16(0x0c, DEVICE_HANDLE + device);
      to.u16(0x0e, 0x1300);
      to.u8(0x10, 1);
      to.u8(0x11, position);
      to.u8(0x12, position === 0 ? 0 : 1);
    });
  for (const channel of channels) {
    let paired = interleaves && channels.length > 1 ? smallest : 0;
    for (const { at, module } of filled.filter((one) => one.channel === channel)) {
      const size = module?.capacity ?? 0;
      if (paired > 0) map(at, channels.indexOf(channel) + 1);
      if (paired < size) map(at, 0);
      paired = Math.max(0, paired - size);
    }
  }
}

/** DSP0134, 5.2.2: the 64-bit entry point, with the table right behind it at 32. */
function withEntryPoint(table: readonly number[]): Uint8Array {
  const image = new Uint8Array(32 + table.length);
  image.set([0x5f, 0x53, 0x4d, 0x33, 0x5f, 0, 0x18, 3, 4, 0, 1, 0]);
  const view = new DataView(image.buffer);
  view.setUint32(0x0c, table.length, true);
  view.setUint32(0x10, 32, true);
  // 5.2: the bytes of the entry point add up to 0.
  image[5] = -sum8(image.subarray(0, 0x18));
  image.set(table, 32);
  return image;
}
