import { RATE_RANGE, gib } from '../units/index.ts';
import type { InventoryFinding } from './findings.ts';
import type { DeviceClaim } from './inventory.ts';
import { meant } from './smbios/placeholders.ts';

/** What was typed off a firmware screen. */
export interface ScreenReading {
  readonly devices: readonly DeviceClaim[];
  readonly findings: readonly InventoryFinding[];
}

const MOST_LINES = 64;
/** Longest line looked at; a screen has eighty or so. */
const MOST_SIGNS = 400;
const EMPTY = /\b(empty|none|not installed|no module|absent|n\/a|-{1,3})\s*$/i;

/**
 * Reads a firmware screen typed line by line: slot, size, rate, in that order: `DIMM_A1 8192 MB
 * 1200 MHz`, `A2: 8 GB @ 2400`, `B1 empty`. The unit of the rate is ignored, since screens call the
 * clock and the data rate alike MHz; whoever knows the modules decides which it was.
 */
export function readScreen(text: string): ScreenReading {
  const findings: InventoryFinding[] = [];
  const devices: DeviceClaim[] = [];
  text
    .split('\n')
    .slice(0, MOST_LINES)
    .forEach((line, at) => {
      if (line.trim() === '') return;
      const device = readLine(line.trim().slice(0, MOST_SIGNS));
      if (device) devices.push(device);
      else
        findings.push({
          ...{ type: 'line-not-understood', severity: 'caution' },
          ...{ place: { part: 'line', number: at + 1 } as const, text: line.trim().slice(0, 80) },
        });
    });
  return { devices, findings };
}

function readLine(line: string): DeviceClaim | undefined {
  const size = /(?<![\w.])(\d+(?:[.,]\d+)?)\s*(MB|MiB|GB|GiB)\b/i.exec(line);
  if (!size) {
    const empty = EMPTY.exec(line);
    const locator = empty && named(line.slice(0, empty.index));
    return locator ? { locator, state: 'empty', verified: true } : undefined;
  }
  const [whole, figure = '', unit = ''] = size;
  const value = Number(figure.replace(',', '.')) / (/^m/i.test(unit) ? 1024 : 1);
  const locator = named(line.slice(0, size.index));
  if (!locator || !(value > 0 && value <= 4096)) return undefined;
  const rate = Number(/\d{3,5}/.exec(line.slice(size.index + whole.length))?.[0]);
  return {
    ...{ locator, state: 'module', capacity: gib(value), verified: true },
    ...(rate >= RATE_RANGE.min && rate <= RATE_RANGE.max ? { configuredShown: rate } : {}),
  };
}

/** The slot's name in front of the figures, without the signs that part them. */
const named = (text: string) => meant(text.replaceAll(/[\s:=,;@|>–-]+$/g, ''));
