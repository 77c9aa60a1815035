import { gib } from '../units/index.ts';
import type { InventoryFinding } from './findings.ts';
import type { DeviceClaim, InventoryReading } from './inventory.ts';
import { readMakerCode } from './maker.ts';
import { CIM_FORM_FACTORS, CIM_MEMORY_TYPES, MEMORY_TYPES, bufferingOf } from './smbios/codes.ts';
import { meant } from './smbios/placeholders.ts';

const MOST_ITEMS = 256;

/** Property names of the CIM schema (DMTF, CIM_PhysicalMemory) and of what providers add to it. */
const OWN_KEYS = [
  'Capacity',
  'DeviceLocator',
  'BankLabel',
  'FormFactor',
  'MemoryType',
  'SMBIOSMemoryType',
];

/** Whether a text is JSON rather than anything else. */
export function looksLikeJson(text: string): boolean {
  return /^\s*[[{"]/.test(text);
}

/**
 * Reads physical-memory instances of the CIM schema as JSON: one object, an array, or an object that
 * wraps the array. Capacity is in bytes; the speed, in the schema ns, is in practice MHz or MT/s.
 */
export function readCim(text: string): InventoryReading {
  const findings: InventoryFinding[] = [];
  const done = (devices: DeviceClaim[] = []): InventoryReading => ({
    kind: 'cim',
    devices,
    findings,
  });
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (error) {
    const near = /position (\d+)/.exec(String(error))?.[1];
    const at = near === undefined ? 0 : Number(near);
    const line = text.slice(0, at).split('\n').length;
    findings.push({
      ...{ type: 'not-json', severity: 'error', place: { part: 'line', number: line } },
      near: text.slice(Math.max(0, at - 20), at + 20).trim(),
    });
    return done();
  }
  const items = itemsOf(parsed);
  if (!items) {
    findings.push({
      ...{ type: 'wrong-shape', severity: 'error', place: { part: 'file' } },
      wanted: 'an object or a list of objects with Capacity and DeviceLocator',
    });
    return done();
  }
  if (items.length > MOST_ITEMS)
    findings.push({
      type: 'too-many-items',
      severity: 'caution',
      place: { part: 'file' },
      limit: MOST_ITEMS,
    });
  const owners = new Set(items.flatMap((item) => ownerOf(item) ?? []));
  if (owners.size > 1) {
    findings.push({
      ...{ type: 'several-machines', severity: 'error', place: { part: 'file' } },
      names: [...owners].slice(0, MOST_ITEMS),
    });
    return done();
  }
  const devices = items
    .slice(0, MOST_ITEMS)
    .flatMap((item, at) => readItem(item, at + 1, findings) ?? []);
  return done(devices);
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function itemsOf(parsed: unknown): unknown[] | undefined {
  if (Array.isArray(parsed)) return parsed.some(isMemory) ? parsed : undefined;
  if (!isObject(parsed)) return undefined;
  if (isMemory(parsed)) return [parsed];
  return Object.values(parsed).find(
    (value): value is unknown[] => Array.isArray(value) && value.some(isMemory),
  );
}

/** The machine an instance was fetched from, where a list taken over a network says it. */
function ownerOf(item: unknown): string | undefined {
  if (!isObject(item)) return undefined;
  const key = Object.keys(item).find((one) => /(?:computer|system)name$|^__server$/i.test(one));
  const owner = key === undefined ? undefined : item[key];
  return typeof owner === 'string' && owner !== '' ? owner.slice(0, 120) : undefined;
}

const isMemory = (value: unknown): boolean =>
  isObject(value) && OWN_KEYS.filter((key) => key in value).length >= 2;

function readItem(
  item: unknown,
  number: number,
  findings: InventoryFinding[],
): DeviceClaim | undefined {
  const place = { part: 'item', number } as const;
  if (!isObject(item)) {
    findings.push({ type: 'wrong-shape', severity: 'error', place, wanted: 'an object' });
    return undefined;
  }
  const text = (key: string) => (typeof item[key] === 'string' ? meant(item[key]) : undefined);
  /** A number, also when a shell wrote it as text; anything else there is said. */
  const number_ = (key: string): number | undefined => {
    const value = item[key];
    if (value === null || value === undefined || value === '') return undefined;
    const figure = typeof value === 'string' ? Number(value) : value;
    if (typeof figure === 'number' && Number.isFinite(figure) && figure >= 0) return figure;
    findings.push({
      ...{ type: 'wrong-value', severity: 'caution', place: { ...place, field: key } },
      ...{ text: JSON.stringify(value).slice(0, 40), wanted: 'a number' },
    });
    return undefined;
  };
  const bytes = number_('Capacity');
  const capacity = bytes === undefined ? undefined : bytes / 2 ** 30;
  const isReal = capacity !== undefined && capacity >= 1 / 1024 && capacity <= 65_536;
  if (capacity !== undefined && capacity !== 0 && !isReal)
    findings.push({
      ...{ type: 'wrong-value', severity: 'caution', place: { ...place, field: 'Capacity' } },
      ...{ text: String(item.Capacity).slice(0, 40), wanted: 'bytes of a module' },
    });
  const smbiosType = MEMORY_TYPES[number_('SMBIOSMemoryType') ?? -1];
  const generation = smbiosType ?? CIM_MEMORY_TYPES[number_('MemoryType') ?? -1];
  const [total, width] = [number_('TotalWidth'), number_('DataWidth')];
  const formFactor = CIM_FORM_FACTORS[number_('FormFactor') ?? -1];
  const makerText = text('Manufacturer');
  const position = number_('InterleavePosition');
  const voltage = number_('ConfiguredVoltage');
  return {
    locator: text('DeviceLocator'),
    bankLocator: text('BankLabel'),
    state: capacity === 0 ? 'empty' : isReal || generation ? 'module' : 'unknown',
    ...(formFactor === 'soldered' ? { soldered: true } : {}),
    ...(isReal ? { capacity: gib(capacity) } : {}),
    ...{ generation, formFactor, buffering: bufferingOf(number_('TypeDetail') ?? 0) },
    ...(total && width ? { ecc: total > width } : {}),
    ratedShown: number_('Speed') || undefined,
    configuredShown: number_('ConfiguredClockSpeed') || undefined,
    ...(voltage !== undefined && voltage >= 500 && voltage <= 3000 ? { voltageMv: voltage } : {}),
    maker: makerText === undefined ? undefined : readMakerCode(makerText),
    makerName: makerText,
    partNumber: text('PartNumber'),
    serial: text('SerialNumber'),
    ...(position !== undefined && position < 255 ? { interleavePosition: position } : {}),
    verified: true,
  };
}
