import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { Language, Parser } from 'web-tree-sitter';
import {
  COLLECTED_FACTS,
  readInventory,
  systemOf,
  unpackCollected,
  writeCim,
  writeCollected,
  writeSmbios,
  writeSpd,
} from '#core/inventory';
import type { InventoryReading } from '#core/inventory';
import { foundByFiles, readDocument, takeIn } from '#core/reconciling';
import { anyModule } from './support/arbitraries.ts';
import { desktop, labelled, spdOf } from './support/builders.ts';
import { RUNNING, collect, layDown, programs } from './support/madeUpSystem.ts';

const ENTRY_POINT = 32;
const SERIAL = 'BADCAFE5';
const first = labelled('16GB 2Rx8 PC4-2666V-UA1-11', { partNumber: 'NX-16U-SV' });

const imageOf = (label: string): Uint8Array => spdOf(labelled(label), { serial: SERIAL });
const tableOf = (machine = desktop()) =>
  writeSmbios(machine, { a1: first }, { serialOf: () => SERIAL, configuredRate: 2666 }).slice(
    ENTRY_POINT,
  );
const asFile = (bytes: Uint8Array) => unpackCollected({ name: 'counter.json', bytes });
const partsOf = (bytes: Uint8Array): InventoryReading[] =>
  asFile(bytes)
    .slice(1)
    .map((part) => readInventory(part.bytes));
const withoutSerials = ({ devices, board }: InventoryReading) => ({
  board,
  devices: devices.map((device) => ({ ...device, serial: undefined })),
});

describe('the script of a Unix system', () => {
  test('what it collects reads as the tables and images themselves do, whatever is fitted', () => {
    fc.assert(
      fc.property(fc.array(anyModule, { minLength: 1, maxLength: 4 }), (modules) => {
        const machine = desktop({ name: 'Skerry B4' });
        const slots = machine.slots.map(({ id }) => id);
        const placement = Object.fromEntries(modules.map((one, at) => [slots[at] ?? 'a1', one]));
        const table = writeSmbios(machine, placement, { serialOf: () => SERIAL });
        const images = modules.flatMap((one) => {
          const spd = writeSpd(one, { serial: SERIAL });
          return spd.ok ? [spd.value] : [];
        });
        const root = layDown({
          ...RUNNING,
          'sys/firmware/dmi/tables/DMI': table.slice(ENTRY_POINT),
          ...Object.fromEntries(
            images.map((bytes, at) => [`sys/bus/i2c/devices/0-005${at}/eeprom`, bytes]),
          ),
        });
        const { bytes } = collect(root);
        expect(readInventory(bytes).findings).toEqual([]);
        const [fromTable, ...fromImages] = partsOf(bytes);
        expect(fromTable).toEqual(readInventory(table.slice(ENTRY_POINT)));
        expect(fromImages).toEqual(images.map((one) => readInventory(one)));
      }),
      { numRuns: 12 },
    );
  });

  test.each([
    '1GB 2Rx8 PC2-6400U-666-12 TV-1U08',
    '8GB 2Rx8 PC3L-12800S-11-13-F3 TD-8L16',
    '16GB 2Rx8 PC4-2666V-SE1-11 TV-16S26',
    '16GB 1Rx8 PC5-4800B-UA0-1010 TV-16U48',
  ])('without serial numbers none is left of %s, and all else reads the same', (label) => {
    const image = imageOf(label);
    const root = layDown({
      ...RUNNING,
      'sys/firmware/dmi/tables/DMI': tableOf(),
      'sys/bus/i2c/devices/0-0050/eeprom': image,
    });
    const serialBytes = Buffer.from(SERIAL, 'hex').toString('hex');
    const serialText = Buffer.from(SERIAL).toString('hex');
    const kept = Buffer.from(collect(root).bytes).toString();
    expect(kept).toContain(serialText);
    const { bytes, said } = collect(root, ['--without-serials']);
    const text = Buffer.from(bytes).toString();
    expect(text).not.toContain(serialText);
    expect(text.toLowerCase()).not.toContain(serialBytes.toLowerCase());
    expect(said).toContain('serial numbers of the modules: left out');
    const [table, fromImage] = partsOf(bytes);
    expect(table && withoutSerials(table)).toEqual(withoutSerials(readInventory(tableOf())));
    const { collected } = readInventory(bytes);
    // Where a checksum covers the number, the image stays behind and it is said.
    if (fromImage) expect(withoutSerials(fromImage)).toEqual(withoutSerials(readInventory(image)));
    else expect(collected?.notRead).toMatchObject([{ what: '/sys/bus/i2c/devices/0-0050/eeprom' }]);
  });

  test('the machine’s own numbers never leave it, not even with the modules’', () => {
    const table = tableOf(desktop({ name: 'Skerry B4' }));
    // Its identifier is 16 bytes at 8 of the first structure.
    const identifier = table.slice(0).fill(0xa7, 8, 24);
    const root = layDown({ ...RUNNING, 'sys/firmware/dmi/tables/DMI': identifier });
    const text = Buffer.from(collect(root).bytes).toString();
    expect(Buffer.from(identifier).toString('hex')).toContain('a7a7a7a7');
    expect(text).not.toContain('a7a7a7a7');
  });

  test('tells the running system: in use, its peak, paging, drive, power, graphics', () => {
    const root = layDown({
      ...RUNNING,
      'sys/class/power_supply/AC/online': '0\n',
      'sys/class/drm/card0/device/mem_info_vram_total': String(512 * 2 ** 20),
    });
    const { collected } = readInventory(collect(root, ['--watch', '1']).bytes);
    if (!collected) throw new Error('expected figures');
    const system = systemOf(collected);
    expect(system.visible).toMatchObject({ value: 15.5, from: '/proc/meminfo' });
    expect(system.peak?.value).toEqual({ gib: 6, paging: false, watchedSeconds: 60 });
    expect(system.drive?.value).toBe('solid state');
    expect(system.power?.value).toBe('battery');
    expect(system.graphics?.value).toBe(0.5);
    const mains = readInventory(collect(layDown(RUNNING)).bytes).collected;
    expect(mains && systemOf(mains).power?.value).toBe('mains, full power');
  });

  test('a system that shows nothing still gives a file, which says what was not read and why', () => {
    const { bytes, said } = collect(layDown({ 'proc/cpuinfo': '' }));
    const { collected } = readInventory(bytes);
    expect(collected?.notRead.map(({ what }) => what)).toEqual([
      'firmware table',
      'images of the modules',
      'memory in use',
    ]);
    expect(said).toContain('not read: firmware table (this system does not expose one)');
  });

  test('an image that is none, and a table of noise, do not stop it', () => {
    const root = layDown({
      ...RUNNING,
      'sys/firmware/dmi/tables/DMI': Uint8Array.from({ length: 300 }, (_, at) => (at * 37) % 251),
      'sys/bus/i2c/devices/0-0050/eeprom': new Uint8Array(256).fill(0xff),
      'sys/bus/i2c/devices/0-0051/eeprom': '',
      'sys/bus/i2c/devices/0-0052/eeprom': imageOf('16GB 2Rx8 PC4-2666V-SE1-11'),
    });
    expect(partsOf(collect(root).bytes).filter(({ kind }) => kind === 'spd')).toHaveLength(1);
  });

  test('a wrong call is told how to call it, and writes nothing', () => {
    const script = join(import.meta.dirname, '../collect/collect.sh');
    for (const args of [['--watch', 'long'], ['--watch'], ['--louder']]) {
      const { status, stderr } = spawnSync('sh', [script, '--out', '/nowhere/x', ...args]);
      expect(status).toBe(2);
      expect(stderr.toString()).toMatch(/--watch/);
    }
    const { status, stderr } = spawnSync('sh', [script, '--yes', '--out', '/nowhere/at/all.json'], {
      env: { ...process.env, COLLECT_ROOT: layDown(RUNNING) },
    });
    expect(status).toBe(1);
    expect(stderr.toString()).toContain('choose another place');
    expect(existsSync('/nowhere')).toBe(false);
  });

  test('a job fills itself from the file alone', () => {
    const root = layDown({
      ...RUNNING,
      'sys/firmware/dmi/tables/DMI': tableOf(desktop({ name: 'Skerry B4' })),
    });
    const reads = asFile(collect(root).bytes).map(({ name, bytes }, at) =>
      readDocument({ id: `d${at}`, kind: 'file', name, bytes }),
    );
    const taken = takeIn(reads, []);
    if (taken.type !== 'machine') throw new Error(taken.type);
    expect(taken.picture.machine.slots).toHaveLength(4);
    const { placement, asks } = foundByFiles(taken.picture.machine, reads);
    expect(asks).toEqual([]);
    expect(Object.values(placement)).toMatchObject([{ capacity: 16, partNumber: 'NX-16U-SV' }]);
  });
});

describe('the script where a report command prints the hardware', () => {
  const REPORT = {
    SPMemoryDataType: [
      {
        _items: [
          {
            ...{ _name: 'BANK 0/DIMM0', dimm_size: '8 GB', dimm_speed: '2667 MHz' },
            ...{ dimm_type: 'DDR4', dimm_part_number: 'NX "8"\\S', dimm_serial_number: SERIAL },
          },
        ],
      },
    ],
  };
  const shell = () =>
    programs({
      system_profiler: `cat <<'END'\n${JSON.stringify(REPORT, null, 2)}\nEND`,
      sysctl:
        'case $2 in hw.memsize) echo 17179869184 ;; vm.swapusage) echo "total = 2048.00M  used = 1500.25M  free = 547.75M" ;; esac',
      vm_stat:
        'printf "Virtual Memory Statistics: (page size of 16384 bytes)\\nAnonymous pages:    200000.\\nPages wired down:   100000.\\nPages occupied by compressor:   20000.\\nSwapins:   7.\\n"',
      pmset:
        'if [ "$2" = batt ]; then echo "Now drawing from \'AC Power\'"; else echo " lowpowermode 1"; fi',
    });

  test('its report travels whole, quotes and all, with what the system says of itself', () => {
    const { bytes } = collect('', [], shell());
    const reading = readInventory(bytes);
    expect(reading.findings).toEqual([]);
    expect(reading.collected?.shell).toBe('report');
    const [report] = partsOf(bytes);
    expect(report).toMatchObject({
      kind: 'hardware-report',
      devices: [{ capacity: 8, configuredShown: 2667, partNumber: 'NX "8"\\S', serial: SERIAL }],
    });
    const system = systemOf(reading.collected ?? { facts: [] });
    expect(system.visible?.value).toBe(16);
    expect(system.peak?.value.gib).toBeCloseTo((320_000 * 16_384) / 2 ** 30, 2);
    expect(system.peak?.value.paging).toBe(true);
    expect(system.power?.value).toBe('mains, saving');
  });

  test('without serial numbers none is left', () => {
    const { bytes } = collect('', ['--without-serials'], shell());
    expect(Buffer.from(bytes).toString()).not.toContain(SERIAL);
    expect(partsOf(bytes)[0]?.devices).toMatchObject([{ capacity: 8, serial: undefined }]);
  });
});

describe('the script of a shell with CIM', () => {
  const file = join(import.meta.dirname, '../collect/collect.ps1');
  const source = readFileSync(file, 'utf8');
  let parser: Parser;
  beforeAll(async () => {
    const require = createRequire(import.meta.url);
    await Parser.init();
    const grammar = require.resolve('tree-sitter-powershell/tree-sitter-powershell.wasm');
    parser = new Parser().setLanguage(await Language.load(grammar));
  });
  const isSound = (text: string) => parser.parse(text)?.rootNode.hasError === false;

  test('is sound in its grammar, and a slip would be seen', () => {
    expect(isSound(source)).toBe(true);
    expect(isSound(source.replace('while ($start + 4', 'while (($start + 4'))).toBe(false);
    expect(
      isSound(source.replace("Add-Note 'memory instances'", "Add-Note 'memory instances")),
    ).toBe(false);
  });

  test('both scripts write figures this bench knows, in its units', () => {
    const unix = readFileSync(join(import.meta.dirname, '../collect/collect.sh'), 'utf8');
    const written = [
      ...[...source.matchAll(/Add-Fact '([\w-]+)' .+? '(KiB|s|bit|word)' '/g)],
      ...[...unix.matchAll(/\bfact ([\w-]+) .*?(KiB|s|bit|word) \S+/g)],
    ].map(([, name = '', unit]) => [name, unit]);
    expect(new Set(written.map(([name]) => name))).toEqual(new Set(Object.keys(COLLECTED_FACTS)));
    for (const [name, unit] of written)
      expect([name, unit]).toEqual([name, COLLECTED_FACTS[name as keyof typeof COLLECTED_FACTS]]);
  });

  test('it keeps the same structures and blanks the same fields as the one for Unix', () => {
    const unix = readFileSync(join(import.meta.dirname, '../collect/collect.sh'), 'utf8');
    const numbers = (text: string | undefined) => (text?.match(/\d+/g) ?? []).map(Number);
    const kept = numbers(/\$kept = (.+)/.exec(source)?.[1]);
    const printed = /if \((type == 1 \|\|.+)\)\n/.exec(unix)?.[1];
    expect(kept.length).toBeGreaterThan(5);
    expect(kept).toEqual(numbers(printed));
  });

  test('what such a shell prints reads as one machine: a recorded file of our own making', () => {
    const machine = desktop({ name: 'Skerry B4' });
    const text = writeCollected({
      ...{ shell: 'cim', collectedAt: '2026-11-02T09:30:00Z', facts: [], notRead: [] },
      parts: [
        {
          ...{ kind: 'memory-instances', from: 'CIM_PhysicalMemory' },
          bytes: new TextEncoder().encode(writeCim(machine, { a1: first }, 2666)),
        },
        { kind: 'smbios-table', from: 'root/wmi', bytes: tableOf(machine) },
      ],
    });
    // This shell marks its files with a byte-order mark, or writes two bytes a letter.
    for (const encoding of ['utf8', 'utf16le'] as const) {
      const bytes = Uint8Array.from(Buffer.from(`\uFEFF${text}`, encoding));
      expect(partsOf(bytes).map(({ kind }) => kind)).toEqual(['cim', 'smbios']);
    }
  });
});

test('the script runs in the plainest shell there is', () => {
  expect(() =>
    execFileSync('sh', ['-n', join(import.meta.dirname, '../collect/collect.sh')]),
  ).not.toThrow();
});
