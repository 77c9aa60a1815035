import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { desktop, labelled, spdOf } from '../../test/support/builders.ts';
import { writeCim, writeSmbios } from '../inventory/index.ts';
import type { Machine } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import { firmwareKey, foundByFiles, readDocument, sensibleName, takeIn } from './index.ts';
import type { KnownMachine, ReadDocument } from './index.ts';

const read = (name: string, content: Uint8Array | string): ReadDocument =>
  readDocument({
    ...{ id: name, kind: 'file', name },
    bytes: typeof content === 'string' ? new TextEncoder().encode(content) : content,
  });
const known = (machine: Machine, knownAs: readonly string[] = []): KnownMachine => ({
  ...{ id: machine.name, machine, knownAs, locators: {} },
});

const small = labelled('8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24');
const board = desktop({ name: 'Lantern A3' });
const dump = (machine = board, placement = { a1: small }) =>
  read(`${machine.name}.dmp`, writeSmbios(machine, placement));

describe('which machine files are from', () => {
  test('a table nobody has seen makes a machine; the library is asked by firmware names first', () => {
    const fresh = takeIn([dump()], [known(desktop({ name: 'Another' }))]);
    expect(fresh).toMatchObject({
      type: 'machine',
      recognised: [],
      key: 'lantern a3 | lantern a3',
    });
    const named = known(desktop({ name: 'LANTERN  a3' }));
    const shop = known(desktop({ name: 'Reading room' }), ['lantern a3 | lantern a3']);
    const again = takeIn([dump()], [named, shop]);
    expect(again).toMatchObject({
      recognised: [
        { known: { id: 'Reading room' }, by: 'firmware', differs: [] },
        { known: { id: 'LANTERN  a3' }, by: 'name' },
      ],
    });
  });

  test('what differs from the library is said, and a closer one comes first', () => {
    const wide = known(desktop({ name: 'Lantern A3' }, 2, 1), ['lantern a3 | lantern a3']);
    const old = known(desktop({ name: 'Lantern A3', generations: ['DDR3'] }));
    const taken = takeIn([dump()], [wide, old, known(board)]);
    expect(taken).toMatchObject({
      recognised: [
        { known: { machine: board }, differs: [] },
        { differs: [{ type: 'slots', stated: 2, listed: 4 }] },
        { differs: [{ type: 'generation', listed: 'DDR4' }] },
      ],
    });
  });

  test('an operating system lists filled places only: fewer of them are no difference', () => {
    const list = read('memory.json', writeCim(board, { a1: small }));
    const [one] = JSON.parse(writeCim(board, { a1: small })) as unknown[];
    const short = read('short.json', JSON.stringify([one]));
    const named = known(desktop({ name: 'Lantern A3' }, 2, 2), ['lantern a3 | lantern a3']);
    // The list itself names no machine; beside images alone it stays nameless.
    expect(takeIn([short], [named])).toMatchObject({ type: 'machine', key: undefined });
    expect(takeIn([list, dump()], [named])).toMatchObject({ recognised: [{ differs: [] }] });
  });

  test('files of two machines are not mixed, dropped side by side or put into one file', () => {
    const other = desktop({ name: 'Beacon 7' }, 2, 1);
    expect(takeIn([dump(), dump(other)], [])).toEqual({
      ...{ type: 'several-machines', names: ['Lantern A3', 'Beacon 7'] },
    });
    const listing = (name: string) =>
      `Handle 0x0001, DMI type 1, 27 bytes\nSystem Information\n\tProduct Name: ${name}\n\n` +
      'Handle 0x0011, DMI type 17, 84 bytes\nMemory Device\n\tSize: 8 GB\n\tLocator: A1\n\tType: DDR4\n\n';
    const joined = read('both.txt', listing('Lantern A3') + listing('Beacon 7'));
    expect(joined.evidence.devices).toEqual([]);
    expect(takeIn([joined], [])).toMatchObject({ names: ['Lantern A3', 'Beacon 7'] });
    expect(takeIn([read('once.txt', listing('Beacon 7'))], []).type).toBe('machine');
    const [item] = JSON.parse(writeCim(board, { a1: small })) as Record<string, unknown>[];
    const from = (name: string) => ({ ...item, ComputerName: name });
    const network = read('all.json', JSON.stringify([from('desk-1'), from('desk-2')]));
    expect(takeIn([network], [])).toMatchObject({ names: ['desk-1', 'desk-2'] });
    const alone = read('one.json', JSON.stringify([from('desk-1'), from('desk-1')]));
    expect(takeIn([alone], []).type).toBe('machine');
  });

  test('a table that names no kind of memory gives way to a shorter list that does', () => {
    const place = (locator: string) =>
      `Handle 0x0011, DMI type 17, 84 bytes\nMemory Device\n\tSize: 8 GB\n\tLocator: ${locator}\n\tType: Unknown\n\n`;
    const vague = read('vague.txt', ['A1', 'A2', 'B1', 'B2'].map(place).join(''));
    expect(takeIn([vague], [])).toEqual({ type: 'no-places' });
    const list = read('memory.json', writeCim(board, { a1: small }));
    expect(takeIn([vague, list], [])).toMatchObject({
      type: 'machine',
      picture: { machine: { generations: ['DDR4'] } },
    });
  });

  test('two tables of one file that differ in nothing but the serial are two machines', () => {
    const serial = (one: string) =>
      `Handle 0x0001, DMI type 1, 27 bytes\nSystem Information\n\tProduct Name: Lantern A3\n\tSerial Number: ${one}\n\n`;
    expect(takeIn([read('two.txt', serial('11') + serial('12'))], []).type).toBe(
      'several-machines',
    );
  });

  test.each([
    ['images alone', () => [read('a.bin', spdOf(small))]],
    ['a letter', () => [read('letter.txt', 'Dear bench, it is slow.')]],
    ['nothing', () => []],
  ])('%s list no places', (_what, reads) => {
    expect(takeIn(reads(), [known(board)])).toEqual({ type: 'no-places' });
  });

  test('whatever machine wrote the table, the library that holds it knows it again, without differences', () => {
    fc.assert(
      fc.property(anyFourChannelMachine, anyPlacement(anyDdr4), (machine, placement) => {
        const reads = [read('table.dmp', writeSmbios(machine, placement))];
        const taken = takeIn(reads, [known(machine)]);
        if (Object.values(placement).every((one) => one === undefined))
          expect(taken.type).toBe('no-places');
        else expect(taken).toMatchObject({ recognised: [{ differs: [] }] });
      }),
    );
  });
});

describe('what a firmware calls a machine', () => {
  test.each([
    [{ systemName: '20KX001', systemVersion: 'Harbour Book 14' }, 'Harbour Book 14'],
    [{ systemName: 'Harbour Book 14', systemVersion: '1.0' }, 'Harbour Book 14'],
    [{ systemName: 'HB14-G2', systemVersion: 'Rev 1.02', boardName: 'Pier Board' }, 'Pier Board'],
    [{ systemName: 'T4100', systemVersion: 'x.x', boardName: undefined }, 'T4100'],
    [{ systemName: 'V15', systemVersion: 'Ver. 3' }, 'V15'],
    [{ systemVersion: '2.1' }, undefined],
    [{}, undefined],
  ])('%o is called %s', (names, name) => {
    expect(sensibleName(names)).toBe(name);
  });

  test('a key knows no case and no signs, and none is made of nothing', () => {
    expect(firmwareKey({ systemName: 'Lantern-A3 ', boardName: 'B/7' })).toBe('lantern a3 | b 7');
    expect(firmwareKey({ systemName: 'lantern a3', boardName: 'b_7' })).toBe('lantern a3 | b 7');
    expect(firmwareKey({ systemName: '--' })).toBeUndefined();
  });
});

describe('what files say is fitted', () => {
  test('any table of any placement can be written down as found without a question', () => {
    fc.assert(
      fc.property(anyFourChannelMachine, anyPlacement(anyDdr4), (machine, placement) => {
        const found = foundByFiles(machine, [read('t.dmp', writeSmbios(machine, placement))]);
        expect(found.asks).toEqual([]);
        const sizes = (of: typeof placement) =>
          machine.slots.map(({ id }) => of[id]?.capacity ?? 0);
        expect(sizes(found.placement)).toEqual(sizes(placement));
      }),
    );
  });

  test('a contradiction asks; a place nobody looked into does not', () => {
    const [one] = JSON.parse(writeCim(board, { a1: small })) as unknown[];
    expect(foundByFiles(board, [read('short.json', JSON.stringify([one]))]).asks).toEqual([]);
    const larger = writeCim(board, { a1: labelled('16GB 2Rx8 PC4-2400T-UA1-11') });
    const both = foundByFiles(board, [dump(), read('memory.json', larger)]);
    expect(both.asks.map(({ type }) => type)).toContain('conflict');
    const lost = foundByFiles(desktop({}, 1, 1), [dump(board, { a1: small, b2: small } as never)]);
    expect(lost.asks.map(({ type }) => type)).toContain('which-slot');
  });

  test('the setting is the overclock profile where only that explains the rate shown', () => {
    const fast = labelled('8GB 1Rx8 PC4-2400T-UA1-11 profile 3200 CL16 1.35V');
    const at = (configuredRate: number) =>
      foundByFiles(board, [
        read('t.dmp', writeSmbios(board, { a1: fast }, { configuredRate })),
        read('a1.spd', spdOf(fast)),
      ]).setting;
    const rates = (['standard', 'profile'] as const).map((setting) => {
      const point = operatingPoint(board, { a1: fast }, setting);
      return point.type === 'runs' ? point.rate : 0;
    });
    expect(rates[0]).not.toBe(rates[1]);
    expect(rates.map(at)).toEqual(['standard', 'profile']);
    // A rate neither explains – a firmware that prints nonsense – leaves the standard setting.
    expect(at(1333)).toBe('standard');
  });
});
