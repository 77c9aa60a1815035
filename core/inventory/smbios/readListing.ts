import { gib } from '../../units/index.ts';
import type { Buffering, FormFactor, Generation } from '../../memory/index.ts';
import { GENERATIONS } from '../../memory/index.ts';
import type { InventoryFinding } from '../findings.ts';
import type { DeviceClaim, InventoryReading } from '../inventory.ts';
import { readMakerCode } from '../maker.ts';
import { assembleInventory } from './inventory.ts';
import type { MemoryArray, MemoryDevice } from './inventory.ts';
import { meant } from './placeholders.ts';

/** One block of a listing: its type, its handle and its lines `Key: value`. */
interface Block {
  readonly type: number;
  readonly handle: number;
  readonly values: ReadonlyMap<string, string>;
}

const HEADER = /^Handle 0x([0-9a-f]{1,8}), DMI type (\d{1,3}), \d+ bytes/i;
const MOST_BLOCKS = 4096;

/** Whether a text is a listing of an SMBIOS table. */
export function isListing(text: string): boolean {
  return text.split('\n', 5000).some((line) => HEADER.test(line.trimStart()));
}

function blocksOf(text: string): Block[] {
  const blocks: { type: number; handle: number; values: Map<string, string> }[] = [];
  for (const line of text.split('\n')) {
    const header = HEADER.exec(line.trimStart());
    if (header) {
      if (blocks.length >= MOST_BLOCKS) break;
      const [, handle = '', type = ''] = header;
      blocks.push({ type: Number(type), handle: parseInt(handle, 16), values: new Map() });
      continue;
    }
    const at = line.indexOf(':');
    const values = blocks.at(-1)?.values;
    if (at < 1 || !values) continue;
    const key = line.slice(0, at).trim().toLowerCase();
    // A key said twice keeps its first value: the second belongs to a list below another key.
    if (!values.has(key))
      values.set(
        key,
        line
          .slice(at + 1)
          .trim()
          .slice(0, 256),
      );
  }
  return blocks;
}

const SIZE_UNITS: Readonly<Record<string, number>> = {
  kb: 2 ** -20,
  kib: 2 ** -20,
  mb: 2 ** -10,
  mib: 2 ** -10,
  gb: 1,
  gib: 1,
  tb: 1024,
  tib: 1024,
};

/** A size as listings print it, `8 GB` or `8192 MB`, in GiB. */
function sizeGib(text: string | undefined): number | undefined {
  const found = /^([\d.]+)\s*([kmgt]i?b)/i.exec(text ?? '');
  const value = found && Number(found[1]) * (SIZE_UNITS[(found[2] ?? '').toLowerCase()] ?? NaN);
  return value !== null && Number.isFinite(value) ? value : undefined;
}

/**
 * Reads the plain-text listing of an SMBIOS table: blocks headed
 * `Handle 0x0040, DMI type 17, 84 bytes`, each with lines `Key: value`.
 */
export function readListing(text: string): InventoryReading {
  const findings: InventoryFinding[] = [];
  const blocks = blocksOf(text);
  const of = (type: number) => blocks.filter((one) => one.type === type);
  const value = (one: Block | undefined, key: string) => meant(one?.values.get(key));
  const parts = assembleInventory({
    names: {
      systemMaker: value(of(1)[0], 'manufacturer'),
      systemName: value(of(1)[0], 'product name'),
      systemVersion: value(of(1)[0], 'version'),
      boardName: value(of(2)[0], 'product name'),
      processors: of(4).filter(({ values }) => /^populated/i.test(values.get('status') ?? ''))
        .length,
      systems: of(1).map((one) => ({
        name: value(one, 'product name') ?? 'a machine without a name',
        all: JSON.stringify([...one.values]),
      })),
    },
    arrays: of(16).map(readArray),
    devices: of(17).map((one) => readDevice(one, findings)),
    mapping: {
      positions: positionsOf(of(20)),
      rowWidths: of(19).map(({ values }) => Number(values.get('partition width') ?? 0) || 0),
    },
  });
  return {
    kind: 'smbios-listing',
    devices: parts.devices,
    board: parts.board,
    findings: [...findings, ...parts.findings],
  };
}

function readArray({ handle, values }: Block): MemoryArray {
  const use = values.get('use') ?? '';
  const maxGib = sizeGib(values.get('maximum capacity'));
  const correction = values.get('error correction type') ?? '';
  return {
    handle,
    isSystemMemory: /system memory/i.test(use) || use === '',
    use: use.toLowerCase(),
    ...(maxGib === undefined ? {} : { maxGib }),
    places: Number(values.get('number of devices') ?? 0) || 0,
    ...(/ecc/i.test(correction) ? { errorCorrection: true } : {}),
    ...(/^none$/i.test(correction) ? { errorCorrection: false } : {}),
  };
}

function readDevice({ handle, values }: Block, findings: InventoryFinding[]): MemoryDevice {
  const value = (key: string) => meant(values.get(key));
  const place = { locator: value('locator'), bankLocator: value('bank locator') };
  const array = parseInt(values.get('array handle') ?? '', 16);
  const sizeText = values.get('size') ?? '';
  const wrap = (claim: DeviceClaim) => ({ handle, array, claim });
  if (/no module|not installed|^0(\s|$)/i.test(sizeText))
    return wrap({ ...place, state: 'empty', verified: true });
  const capacity = sizeGib(sizeText);
  if (capacity === undefined && meant(sizeText) !== undefined)
    findings.push({
      ...{ type: 'unit-unreadable', severity: 'caution', text: sizeText.slice(0, 40) },
      place: { part: 'structure', number: handle, field: 'Size' },
    });
  const generation = generationOf(values.get('type'));
  const formFactor = formFactorOf(values.get('form factor'));
  const [total, width] = [
    parseInt(values.get('total width') ?? '', 10),
    parseInt(values.get('data width') ?? '', 10),
  ];
  const ranks = Number(values.get('rank'));
  const volts = parseFloat(values.get('configured voltage') ?? '');
  const makerText = value('manufacturer');
  const codeText = /bank (\d+), hex 0x([0-9a-f]{2})/i.exec(
    values.get('module manufacturer id') ?? '',
  );
  return wrap({
    ...place,
    state: capacity === undefined && generation === undefined ? 'unknown' : 'module',
    ...(formFactor === 'soldered' ? { soldered: true } : {}),
    ...(capacity === undefined ? {} : { capacity: gib(capacity) }),
    ...{ generation, formFactor, buffering: bufferingOf(values.get('type detail')) },
    ...(total > 0 && width > 0 ? { ecc: total > width } : {}),
    ...(ranks >= 1 && ranks <= 8 ? { ranks } : {}),
    ratedShown: parseInt(values.get('speed') ?? '', 10) || undefined,
    configuredShown:
      parseInt(
        values.get('configured memory speed') ?? values.get('configured clock speed') ?? '',
        10,
      ) || undefined,
    ...(volts >= 0.5 && volts <= 3 ? { voltageMv: Math.round(volts * 1000) } : {}),
    maker: codeText
      ? readMakerCode(`${codeText[1]}-${codeText[2]}`)
      : makerText === undefined
        ? undefined
        : readMakerCode(makerText),
    makerName: makerText,
    partNumber: value('part number'),
    serial: value('serial number'),
    verified: true,
  });
}

/** `DDR4`, `LPDDR4X` … as printed; the longest name that stands there. */
export function generationOf(text: string | undefined): Generation | undefined {
  const upper = (text ?? '').toUpperCase().replaceAll(/[^A-Z0-9]/g, '');
  return GENERATIONS.find((generation) => upper === generation || upper === `${generation}SDRAM`);
}

function formFactorOf(text: string | undefined): FormFactor | undefined {
  if (/so-?dimm/i.test(text ?? '')) return 'SODIMM';
  if (/row of chips|^chip$|^die$/i.test(text ?? '')) return 'soldered';
  if (/camm/i.test(text ?? '')) return 'compression';
  return /dimm/i.test(text ?? '') ? 'DIMM' : undefined;
}

function bufferingOf(text: string | undefined): Buffering | undefined {
  if (/lrdimm/i.test(text ?? '')) return 'load-reduced';
  if (/unbuffered|unregistered/i.test(text ?? '')) return 'unbuffered';
  return /registered|buffered/i.test(text ?? '') ? 'registered' : undefined;
}

function positionsOf(blocks: readonly Block[]): ReadonlyMap<number, readonly number[]> {
  const positions = new Map<number, number[]>();
  for (const { values } of blocks) {
    const device = parseInt(values.get('physical device handle') ?? '', 16);
    const text = values.get('interleave position');
    // The listing leaves the line out, or says "Unknown", where the table says FFh.
    const position = text === undefined ? NaN : Number(text);
    if (Number.isInteger(position) && Number.isInteger(device))
      positions.set(device, [...(positions.get(device) ?? []), position]);
  }
  return positions;
}
