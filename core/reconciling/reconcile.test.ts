import { describe, expect, test } from 'vitest';
import { desktop, labelled, running, spdOf } from '../../test/support/builders.ts';
import { readInventory, writeSmbios } from '../inventory/index.ts';
import { judgeMatch } from '../matching/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { dataRate, gib } from '../units/index.ts';
import { machineFromInventory, matchLocators, readDocument, reconcile } from './index.ts';
import type { DocumentKind, Evidence, Question } from './index.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);
let count = 0;
const seen = (
  kind: DocumentKind,
  content: string | Uint8Array,
  more: { slot?: string; name?: string } = {},
): Evidence =>
  readDocument({
    ...{ id: `e${++count}`, kind, name: more.name ?? kind },
    bytes: typeof content === 'string' ? bytesOf(content) : content,
    ...(more.slot ? { slotIds: [more.slot] } : {}),
  }).evidence;
const imageOf = (module: MemoryModule, serial = '0000AB01') => spdOf(module, { serial });
const types = (questions: readonly Question[]) => questions.map(({ type }) => type);

const stance = { need: undefined, capacityFirst: false, memoryTestPassed: false };
const first = labelled('8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24');
const second = labelled('8GB 2Rx8 PC4-2133P-UB1-11 PV-8U21');
const board = desktop({ maxTotal: gib(64) });

test('a dump of four slots with three unlike modules tells all without any typing', () => {
  const dump = writeSmbios(
    board,
    { a1: first, a2: second, b2: first },
    { configuredRate: 2133, mapsAddresses: true, interleaves: true },
  );
  const picture = machineFromInventory(readInventory(dump));
  if (!picture) throw new Error('expected a machine');
  const { machine, placement, guesses } = picture;
  expect(guesses).toEqual([]);
  expect(
    machine.slots.map(({ id, printedName, channels }) => [printedName, channels, id in placement]),
  ).toEqual([
    ['A1', ['A'], true],
    ['A2', ['A'], true],
    ['B1', ['B'], false],
    ['B2', ['B'], true],
  ]);
  const point = running(machine, placement);
  expect([point.installed, point.rate, point.paired]).toEqual([24, 2133, 16]);
  expect(point.layouts[0].regions.map(({ capacity, channels }) => [capacity, channels])).toEqual([
    [16, ['A', 'B']],
    [8, ['A']],
  ]);
  // Rates and ranks differ, sizes do not.
  expect(judgeMatch(machine, placement, 'standard', stance).grade).toBe('same size');
});

describe('the uneven-channel trait comes from the address map alone', () => {
  test.each([
    [{ mapsAddresses: true, interleaves: true }, 'zone'],
    [{ mapsAddresses: true, interleaves: false }, 'single'],
    [{}, 'unknown'],
  ])('%j → %s', (style, trait) => {
    const dump = writeSmbios(board, { a1: first, a2: second, b2: first }, style);
    expect(machineFromInventory(readInventory(dump))?.machine.unevenChannels).toBe(trait);
  });
});

describe('locators of any fashion', () => {
  test.each([
    [
      'ChannelA-DIMM0, counted from 0',
      ['ChannelA-DIMM0', 'ChannelA-DIMM1', 'ChannelB-DIMM0', 'ChannelB-DIMM1'],
      'channel and number',
    ],
    [
      'ChannelA-DIMM1, counted from 1',
      ['ChannelA-DIMM1', 'ChannelA-DIMM2', 'ChannelB-DIMM1', 'ChannelB-DIMM2'],
      'channel and number',
    ],
    ['DIMM_A1', ['DIMM_A1', 'DIMM_A2', 'DIMM_B1', 'DIMM_B2'], 'printed name'],
    ['DIMM 1', ['DIMM 1', 'DIMM 2', 'DIMM 3', 'DIMM 4'], 'number'],
    ['no sense at all', ['left', 'middle', 'right', 'far'], 'order'],
  ])('%s', (_name, locators, rule) => {
    const matches = matchLocators(
      board,
      locators.map((locator) => ({ locator })),
    );
    expect(matches.map(({ slotId }) => slotId)).toEqual(['a1', 'a2', 'b1', 'b2']);
    expect(new Set(matches.map((match) => match.rule))).toEqual(new Set([rule]));
  });

  test('the bank says the channel where the locator repeats itself', () => {
    const names = ['A', 'A', 'B', 'B'].map((channel, at) => ({
      ...{ locator: `DIMM ${at % 2}`, bankLocator: `P0 CHANNEL ${channel}` },
    }));
    expect(matchLocators(board, names).map(({ slotId }) => slotId)).toEqual([
      'a1',
      'a2',
      'b1',
      'b2',
    ]);
  });

  test('two controllers of one channel each; one slot a channel', () => {
    const small = desktop({}, 2, 1);
    const names = [0, 1].map((at) => ({ locator: `Controller${at}-ChannelA-DIMM0` }));
    expect(matchLocators(small, names).map(({ slotId }) => slotId)).toEqual(['a1', 'b1']);
  });

  test('what a person said is remembered, outranks every rule, and two names never share a slot', () => {
    const names = [{ locator: 'A1' }, { locator: 'A1' }, { locator: 'B1' }, { locator: 'X9' }];
    const matches = matchLocators(board, names, { B1: 'b2', X9: 'none' });
    expect(matches.map(({ slotId, rule }) => [slotId, rule])).toEqual([
      [undefined, 'no match'],
      [undefined, 'no match'],
      ['b2', 'remembered'],
      [undefined, 'remembered'],
    ]);
  });
});

describe('all evidence of a slot side by side', () => {
  test('agreement is quiet: half a clock, a size less a carve-out and a shortened part are the same module', () => {
    const evidence = [
      seen('file', imageOf(first), { name: 'A1.bin' }),
      seen('file', writeSmbios(board, { a1: first }, { configuredRate: 2400, printsClock: true })),
      seen('screen', 'A1 7936 MB 1200 MHz\nA2 empty\nB1 empty\nB2 empty'),
      seen('sticker', '8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24.R2', { slot: 'a1' }),
    ];
    const { slots, questions, placement } = reconcile({ machine: board, evidence });
    expect(questions).toEqual([]);
    const rows = Object.fromEntries((slots[0]?.rows ?? []).map((row) => [row.field, row]));
    expect(rows.capacity?.cells.map(({ shown, note }) => [shown, note])).toEqual([
      ['8 GB', undefined],
      ['8 GB', undefined],
      ['8 GB', undefined],
      ['7.75 GB', 'less a carve-out'],
    ]);
    expect(rows.rate?.cells.find(({ source }) => source === 'smbios')).toMatchObject({
      ...{ shown: '1200', value: 2400, note: 'half clock' },
    });
    expect(rows['part number']?.verdict).toBe('agrees');
    expect(placement.a1).toMatchObject({ capacity: 8, rate: 2400, timesPs: { cl: 14_166 } });
    expect(slots.map(({ state }) => state)).toEqual(['module', 'empty', 'empty', 'empty']);
  });

  test('a conflict is a question; the decision keeps who and when, and brings that source’s module', () => {
    const wrong = labelled('16GB 2Rx8 PC4-2666V-UB1-11 QL-16U26');
    const spd = seen('file', imageOf(first), { name: 'a1.spd' });
    const sticker = seen('sticker', '16GB 2Rx8 PC4-2666V-UB1-11 QL-16U26', { slot: 'a1' });
    const before = reconcile({ machine: board, evidence: [spd, sticker] });
    expect(before.placement.a1).toMatchObject({ capacity: 8, partNumber: 'TV-8U24' });
    expect(
      before.questions.flatMap((one) => (one.type === 'conflict' ? [one.row.field] : [])),
    ).toEqual([...['capacity', 'ranks', 'rate', 'part number']]);
    const decisions = (['capacity', 'ranks', 'rate', 'part number'] as const).map((field) => ({
      ...{
        slotId: 'a1',
        field,
        evidenceId: sticker.id,
        by: 'Ottoline',
        at: '2026-11-24T09:00:00Z',
      },
    }));
    const after = reconcile({ machine: board, evidence: [spd, sticker], decisions });
    expect(types(after.questions)).toEqual(['look', 'look', 'look']);
    expect(after.placement.a1).toEqual(wrong);
    expect(after.slots[0]?.rows.find(({ field }) => field === 'rate')).toMatchObject({
      ...{ verdict: 'conflict', decision: { by: 'Ottoline' }, chosen: { source: 'sticker' } },
    });
  });

  test('a broken image is believed less than the sticker, and its fields stay in sight as unverified', () => {
    const broken = imageOf(first);
    broken[4] = (broken[4] ?? 0) ^ 1;
    const evidence = [
      seen('file', broken, { name: 'A1.bin' }),
      seen('sticker', '8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24', { slot: 'a1' }),
    ];
    const { slots, placement } = reconcile({ machine: board, evidence });
    const capacity = slots[0]?.rows.find(({ field }) => field === 'capacity');
    expect(capacity?.chosen).toMatchObject({ source: 'sticker', shown: '8 GB' });
    expect(capacity?.cells[1]).toMatchObject({ source: 'spd', note: 'unverified' });
    expect(placement.a1?.capacity).toBe(8);
  });

  test.each([
    ['sticker', 'sticker', 16],
    ['file', 'spd', 16],
    // The firmware only retells; the sticker in the picture is the module itself.
    ['smbios', 'photo', 8],
    ['broken image', 'photo', 8],
  ] as const)(
    'a label off a photo beside a %s: the %s is believed',
    (against, source, capacity) => {
      const other = labelled('16GB 2Rx8 PC4-2666V-UB1-11 QL-16U26');
      const broken = imageOf(other).map((byte, at) => (at === 126 ? byte ^ 1 : byte));
      const rival = {
        sticker: () => seen('sticker', '16GB 2Rx8 PC4-2666V-UB1-11 QL-16U26', { slot: 'a1' }),
        file: () => seen('file', imageOf(other), { name: 'A1.bin' }),
        smbios: () => seen('file', writeSmbios(board, { a1: other })),
        'broken image': () => seen('file', broken, { name: 'A1.bin' }),
      }[against]();
      const photo = seen('photo', '8GB 1Rx8 PC4-2400T-UA1-11', { slot: 'a1' });
      for (const evidence of [
        [photo, rival],
        [rival, photo],
      ]) {
        const { slots, placement, questions } = reconcile({ machine: board, evidence });
        const row = slots[0]?.rows.find(({ field }) => field === 'capacity');
        expect([row?.verdict, row?.chosen.source]).toEqual(['conflict', source]);
        expect(placement.a1?.capacity).toBe(capacity);
        expect(types(questions)).toContain('conflict');
      }
    },
  );

  test('eyes outrank all: a slot seen empty is empty, and its firmware size a conflict', () => {
    const evidence = [
      seen('file', writeSmbios(board, { a1: first, b1: first })),
      seen('eyes', 'empty', { slot: 'b1' }),
    ];
    const { slots, questions } = reconcile({ machine: board, evidence });
    expect(slots[2]?.state).toBe('empty');
    expect(questions).toMatchObject([
      { type: 'conflict', slotId: 'b1', row: { field: 'presence' } },
    ]);
  });
});

describe('images name no slot', () => {
  const table = (serials: Record<string, string>) =>
    seen('file', writeSmbios(board, { a1: first, b1: first }, { serialOf: (id) => serials[id] }));

  test('a serial places them; without one alike modules go to alike slots; else it is asked', () => {
    const bySerial = reconcile({
      machine: board,
      evidence: [
        table({ a1: '0000AB02', b1: '0000AB01' }),
        seen('file', imageOf(first, '0000AB01'), { name: 'one.bin' }),
        seen('file', imageOf(first, '0000AB02'), { name: 'two.bin' }),
      ],
    });
    const image = bySerial.slots[2]?.matches.find(({ evidence }) => evidence.source === 'spd');
    expect(image).toMatchObject({ evidence: { name: 'one.bin' }, match: { rule: 'serial' } });
    const alike = reconcile({
      machine: board,
      evidence: [
        table({}),
        seen('file', imageOf(first), { name: 'one.bin' }),
        seen('file', imageOf(first), { name: 'two.bin' }),
      ],
    });
    expect(alike.questions).toEqual([]);
    expect(alike.placement).toMatchObject({ a1: { timesPs: {} }, b1: { timesPs: {} } });
    const alone = reconcile({
      machine: board,
      evidence: [seen('file', imageOf(first), { name: 'dump.bin' })],
    });
    expect(types(alone.questions)).toEqual(['which-slot', 'look', 'look', 'look', 'look']);
  });
});

test('a bare number in an image’s file name is no hint which slot it is from', () => {
  const named = (name: string) =>
    reconcile({ machine: board, evidence: [seen('file', imageOf(first), { name })] });
  expect(types(named('2.bin').questions)).toContain('which-slot');
  expect(types(named('DIMM_A2.bin').questions)).not.toContain('which-slot');
  expect(named('DIMM_A2.bin').placement).toHaveProperty('a2');
});

test('a place told by order alone is asked about, one told by its name is not', () => {
  const dump = (names: readonly string[]) =>
    seen(
      'file',
      JSON.stringify(
        names.map((name) => ({
          ...{ Capacity: 8 * 2 ** 30, DeviceLocator: name, SMBIOSMemoryType: 26, Speed: 2400 },
        })),
      ),
    );
  const unsure = (names: readonly string[]) =>
    reconcile({ machine: board, evidence: [dump(names)] }).questions.filter(
      ({ type }) => type === 'unsure-slot',
    ).length;
  expect(unsure(['DIMM_A1', 'DIMM_B1'])).toBe(0);
  expect(unsure(['Top', 'Bottom', 'Left', 'Right'])).toBeGreaterThan(0);
});

test('phantom slots, soldered parts shown as slots and places set aside are recognised', () => {
  const part = { ...first, formFactor: 'soldered' as const };
  const laptop = desktop({ soldered: [{ channel: 'A', part }] }, 2, 1);
  const dump = writeSmbios({ ...laptop, soldered: [] }, { b1: second }, { phantoms: ['BANK 7'] });
  const odd = seen('file', dump);
  const chips = readInventory(writeSmbios(laptop, {})).devices[0];
  const { strays, questions } = reconcile({
    machine: laptop,
    evidence: [
      {
        ...odd,
        devices: [
          ...odd.devices,
          { ...chips, state: 'module', soldered: false, locator: 'Slot X', verified: true },
        ],
      },
    ],
  });
  expect(strays.map(({ kind }) => kind)).toEqual(['phantom', 'soldered']);
  expect(types(questions)).toEqual([]);
  const aside = reconcile({
    machine: laptop,
    evidence: [odd],
    remembered: { BANK7: 'none' },
  });
  expect(aside.strays[0]?.kind).toBe('set aside');
});

test('a module an inventory alone describes runs, with what was assumed said', () => {
  const { placement } = reconcile({
    machine: board,
    evidence: [seen('file', writeSmbios(board, { a1: { ...first, rate: dataRate(2400) } }))],
  });
  expect(placement.a1).toMatchObject({ timings: { cl: 17 }, ranks: 1, assumed: ['timings'] });
});
