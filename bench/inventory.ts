import type * as inventoryRoom from '#core/inventory';
import { MACHINES } from '../demo/machines.ts';
import { moduleOf } from '../demo/parts.ts';
import { builtRoom } from './built.ts';
import { perSecond, times } from './table.ts';
import type { Row } from './table.ts';

const LABELS = [
  '1GB 2Rx8 PC2-6400U-666-12 TD-1U08',
  '4GB 1Rx8 PC3L-12800S-11-13-B2 TD-4L16',
  '16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29',
  '16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56',
];

/** Files of a customer's machine read a second: images of four generations, a table of eight slots. */
export async function benchInventory(): Promise<Row[]> {
  const { readInventory, unpackCollected, writeCollected, writeSmbios, writeSpd } =
    await builtRoom<typeof inventoryRoom>('inventory');
  const images = LABELS.map((label) => {
    const spd = writeSpd(moduleOf(label, { maker: '122-13' }), { serial: '5A000001' });
    if (!spd.ok) throw new Error(`expected an image of ${label}`);
    return spd.value;
  });
  const station = MACHINES.stackingStation;
  const module = moduleOf('16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29');
  const full = Object.fromEntries(station.slots.map(({ id }) => [id, module]));
  const table = writeSmbios(station, full, { configuredRate: 2666, mapsAddresses: true });
  let at = 0;
  const decoded = perSecond(() => readInventory(images[at++ % images.length] ?? table));
  const tables = perSecond(() => readInventory(table));
  const whole = new TextEncoder().encode(
    writeCollected({
      ...{ shell: 'unix', collectedAt: '2026-11-20T08:15:00Z', facts: [], notRead: [] },
      parts: [
        { kind: 'smbios-table', from: '/sys/firmware/dmi/tables', bytes: table },
        ...images.map((bytes, slot) => ({
          ...({ kind: 'spd-image', bytes } as const),
          from: `/sys/bus/i2c/devices/0-005${slot}/eeprom`,
        })),
      ],
    }),
  );
  // As the page takes it: the file, and each of its parts.
  const collected = perSecond(() =>
    unpackCollected({ name: 'collected.json', bytes: whole }).map(({ bytes }) =>
      readInventory(bytes),
    ),
  );
  const copiedWhole = perSecond(() => structuredClone(whole));
  const copied = perSecond(() => structuredClone(images[at++ % images.length]));
  const copiedTables = perSecond(() => structuredClone(table));
  const row = (what: string, measured: number, wanted: number, plain: number): Row => ({
    what,
    measured: `${Math.round(measured).toLocaleString('en')}/s`,
    wanted: `≥ ${wanted.toLocaleString('en')}/s`,
    holds: measured >= wanted,
    yardstick: `${Math.round(plain).toLocaleString('en')}/s structured clones of the bytes, ${times(measured, plain)}`,
  });
  return [
    row('SPD images, DDR2 to DDR5 in turn', decoded, 5000, copied),
    row('SMBIOS tables, 8 slots with address map', tables, 1000, copiedTables),
    // 20 ms a file.
    row('collected files with a table and four images', collected, 50, copiedWhole),
  ];
}
