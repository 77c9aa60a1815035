import { readInventory, writeSmbios } from '#core/inventory';
import type { Generation } from '#core/memory';
import { desktop, labelled } from './builders.ts';

const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** The generation a firmware table with this memory type (DSP0134, 7.18.2) is read as. */
export function readSmbios(code: number): Generation | undefined {
  const table = writeSmbios(desktop(), { a1: module }, { configuredRate: 2400 });
  // The type stands at 12h of the device structure, which starts with its own type, 17.
  for (let at = 0; at + 0x13 < table.length; at++)
    if (table[at] === 17 && table[at + 0x0e] === 9 && table[at + 0x12] === 0x1a) {
      const changed = Uint8Array.from(table);
      changed[at + 0x12] = code;
      return readInventory(changed).devices.find(({ state }) => state === 'module')?.generation;
    }
  throw new Error('expected a memory device in the table');
}

/** The generation a list of physical memory with this CIM memory type is read as. */
export function readCim(code: number): Generation | undefined {
  const items = [{ Capacity: 2 ** 33, DeviceLocator: 'A1', MemoryType: code }];
  return readInventory(new TextEncoder().encode(JSON.stringify(items))).devices[0]?.generation;
}
