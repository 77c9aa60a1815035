import { describe, expect, test } from 'vitest';
import { readInventory } from './index.ts';

const read = (report: unknown) => readInventory(new TextEncoder().encode(JSON.stringify(report)));

const place = (more: Record<string, string> = {}) => ({
  ...{ _name: 'BANK 0/DIMM0', dimm_manufacturer: '0x83CD', dimm_size: '8 GB' },
  ...{ dimm_part_number: '0x534B2D3132332020', dimm_serial_number: '0x0BADCAFE' },
  ...{ dimm_speed: '2667 MHz', dimm_status: 'ok', dimm_type: 'DDR4' },
  ...more,
});

describe('a hardware report as JSON', () => {
  test('tells place, size, kind, rate and part number of each module', () => {
    const { kind, devices, findings } = read({
      SPMemoryDataType: [
        {
          _items: [
            place(),
            place({ _name: 'BANK 1/DIMM0', dimm_size: 'empty', dimm_type: 'empty' }),
          ],
          _name: 'global_name',
          global_ecc_state: 'ecc_disabled',
        },
      ],
    });
    expect({ kind, findings }).toEqual({ kind: 'hardware-report', findings: [] });
    expect(devices).toMatchObject([
      {
        ...{ locator: 'BANK 0/DIMM0', state: 'module', capacity: 8, generation: 'DDR4' },
        ...{ configuredShown: 2667, partNumber: 'SK-123', serial: '0x0BADCAFE' },
      },
      { locator: 'BANK 1/DIMM0', state: 'empty' },
    ]);
    expect(devices[0]?.ratedShown).toBeUndefined();
  });

  test('memory on the board is one item that states the sum', () => {
    const { devices } = read({
      SPMemoryDataType: [
        { SPMemoryDataType: '16 GB', dimm_manufacturer: '0xCE', dimm_type: 'LPDDR5' },
      ],
    });
    expect(devices).toMatchObject([
      {
        state: 'module',
        soldered: true,
        capacity: 16,
        generation: 'LPDDR5',
        formFactor: 'soldered',
      },
    ]);
  });

  test.each([
    ['half a size', { dimm_size: 'some GB' }],
    ['a size no module has', { dimm_size: '99999 TB' }],
  ])('%s is named', (_, more) => {
    expect(read([place(more)]).findings).toMatchObject([
      { type: 'wrong-value', place: { part: 'item', number: 1, field: 'dimm_size' } },
    ]);
  });

  test('nested without end or by the thousand it is still read within bounds', () => {
    let deep: unknown = [place()];
    for (let at = 0; at < 500; at++) deep = { inner: deep };
    expect(read(deep).kind).not.toBe('hardware-report');
    const many = read(Array.from({ length: 1000 }, () => place()));
    expect(many.devices).toHaveLength(256);
    expect(many.findings).toMatchObject([{ type: 'too-many-items' }]);
  });
});
