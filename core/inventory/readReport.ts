import { generationNamed } from '../memory/index.ts';
import type { Generation } from '../memory/index.ts';
import { gib } from '../units/index.ts';
import type { InventoryFinding } from './findings.ts';
import type { DeviceClaim, InventoryReading } from './inventory.ts';
import { readMakerCode } from './maker.ts';
import { meant } from './smbios/placeholders.ts';

const MOST_ITEMS = 256;
const UNIT_GIB = { MB: 1 / 1024, GB: 1, TB: 1024 } as const;

type Item = Readonly<Record<string, unknown>>;

/**
 * Reads the memory part of a hardware report that a system prints as JSON: a list of places whose
 * fields begin with `dimm_`, at any depth; a machine with soldered memory only has one item that
 * states the sum.
 *
 * @param parsed - the JSON, parsed
 * @returns `undefined` where the JSON is no such report
 */
export function readReport(parsed: unknown): InventoryReading | undefined {
  const items: Item[] = [];
  gather(parsed, items, 0);
  if (items.length === 0) return undefined;
  const findings: InventoryFinding[] = [];
  if (items.length > MOST_ITEMS)
    findings.push({
      ...{ type: 'too-many-items', severity: 'caution', place: { part: 'file' } },
      limit: MOST_ITEMS,
    });
  const devices = items.slice(0, MOST_ITEMS).map((item, at) => readPlace(item, at + 1, findings));
  return { kind: 'hardware-report', devices, findings };
}

const DEEPEST = 8;

function gather(value: unknown, into: Item[], depth: number): void {
  if (depth > DEEPEST || into.length > MOST_ITEMS || typeof value !== 'object' || value === null)
    return;
  if (Array.isArray(value)) for (const one of value) gather(one, into, depth + 1);
  else if (Object.keys(value).some((key) => key.startsWith('dimm_'))) into.push(value as Item);
  else for (const one of Object.values(value)) gather(one, into, depth + 1);
}

function readPlace(item: Item, number: number, findings: InventoryFinding[]): DeviceClaim {
  const text = (key: string) => (typeof item[key] === 'string' ? meant(item[key]) : undefined);
  const locator = text('_name');
  // Soldered memory is one item without a place of its own; its size stands under the list's name.
  const own = Object.entries(item).find(([key]) => /memorydatatype$/i.test(key))?.[1];
  const sizeText = text('dimm_size') ?? (typeof own === 'string' ? meant(own) : undefined);
  const capacity = sizeOf(sizeText);
  if (sizeText !== undefined && capacity === undefined)
    findings.push({
      ...{ type: 'wrong-value', severity: 'caution' },
      ...{ place: { part: 'item', number, field: 'dimm_size' }, text: sizeText.slice(0, 40) },
      wanted: 'a size as 8 GB',
    });
  const makerText = text('dimm_manufacturer');
  const partText = text('dimm_part_number');
  const isSoldered = text('dimm_size') === undefined && capacity !== undefined;
  const generation = generationIn(text('dimm_type'));
  return {
    ...(locator === undefined ? {} : { locator }),
    state: capacity !== undefined || generation ? 'module' : 'empty',
    ...(isSoldered ? { soldered: true, formFactor: 'soldered' as const } : {}),
    ...(capacity === undefined ? {} : { capacity: gib(capacity) }),
    ...(generation ? { generation } : {}),
    // The report prints the rate a place runs at, not the one its module is sold for.
    ...(rateOf(text('dimm_speed')) === undefined
      ? {}
      : { configuredShown: rateOf(text('dimm_speed')) }),
    maker: makerText === undefined ? undefined : readMakerCode(makerText),
    makerName: makerText,
    partNumber: partText === undefined ? undefined : meant(fromHex(partText)),
    serial: text('dimm_serial_number'),
    verified: true,
  };
}

function sizeOf(text: string | undefined): number | undefined {
  const [, figure = '', unit = ''] = /^(\d+(?:\.\d+)?)\s*([MGT]B)$/i.exec(text ?? '') ?? [];
  const size = Number(figure) * (UNIT_GIB[unit.toUpperCase() as keyof typeof UNIT_GIB] ?? 0);
  return size > 0 && size <= 65_536 ? size : undefined;
}

const rateOf = (text: string | undefined): number | undefined => {
  const figure = Number(/^(\d{3,5})\s*M(?:Hz|T\/s)$/i.exec(text ?? '')?.[1]);
  return Number.isFinite(figure) ? figure : undefined;
};

/** Some reports print a part number as the hex of its letters. */
function fromHex(text: string): string {
  const [, digits] = /^0x((?:[\da-f]{2})+)$/i.exec(text) ?? [];
  if (digits === undefined) return text;
  return String.fromCodePoint(
    ...(digits.match(/../g) ?? []).map((pair) => parseInt(pair, 16)),
  ).replace(/[\0\s]+$/, '');
}

const generationIn = (text: string | undefined): Generation | undefined =>
  generationNamed(text ?? '');
