import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { plainMachine, samePlacement } from '../machine/index.ts';
import type { Machine, Placement } from '../machine/index.ts';
import { readLabel } from '../memory/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import {
  START,
  cautionsFor,
  closingActs,
  effectOf,
  expectStart,
  findCoverFaults,
  fitSheet,
  foldLog,
  judgeReading,
  lengthFault,
  openingActs,
  placementShown,
  toolsFor,
  trayOf,
} from './index.ts';
import type { BenchEntry, CoverMap, CoverPart, FitSheet, Note } from './index.ts';
import { often } from '../../test/support/draws.ts';

const moduleOf = (label: string): MemoryModule => {
  const { module } = readLabel(label);
  if (!module) throw new Error(`expected a module: ${label}`);
  return module;
};
const eight = moduleOf('8GB 1Rx8 PC4-2666V-UA1-11');
const sixteen = moduleOf('16GB 2Rx8 PC4-3200AA-UB1-11');
const desktop = plainMachine({
  ...{ name: 'Test desktop', kind: 'desktop', generation: 'DDR4', formFactor: 'DIMM' },
  ...{ channels: 2, slotsPerChannel: 2 },
});
const laptop: Machine = {
  ...plainMachine({
    ...{ name: 'Test laptop', kind: 'laptop', generation: 'DDR5', formFactor: 'SODIMM' },
    ...{ channels: 2, slotsPerChannel: 1 },
  }),
};
const agreed = { dataBackedUp: 'yes', openCase: 'yes', warrantySeal: 'yes' } as const;

const screw = (id: string, length: number | 'unknown', more: Partial<CoverPart> = {}): CoverPart =>
  ({
    ...{ kind: 'fastener', id, x: Number(id.slice(1)) * 10, y: 10, drive: 'cross', size: 'PH1' },
    ...{ length, captive: false, under: 'nothing', ...more },
  }) as CoverPart;
const map: CoverMap = {
  ...{ width: 300, height: 200, note: '' },
  parts: [
    { kind: 'clip', id: 'c1', x: 5, y: 100 },
    screw('p1', 6, { under: 'foot' } as never),
    screw('p2', 4),
    screw('p3', 6, { captive: true }),
    { kind: 'cable', id: 'k1', x: 100, y: 100, what: 'fan lead' },
  ],
};

/** A bench where notes are made one after another. */
function benchOf(
  machine: Machine,
  found: Placement,
  cover: CoverMap | undefined = undefined,
  consents: Parameters<typeof fitSheet>[0]['consents'] = agreed,
) {
  const entries: BenchEntry[] = [];
  let target = { placement: found, setting: 'standard' as 'standard' | 'profile' };
  const state = () => foldLog(entries, { placement: found, setting: 'standard' });
  const sheet = (): FitSheet =>
    fitSheet({ machine, map: cover, found, state: state(), target, consents, pulledTo: 'drawer' });
  const add = (note: Note, by = 'one') =>
    entries.push({
      id: `e${entries.length}`,
      by,
      at: `2026-01-01T00:00:${String(entries.length % 60).padStart(2, '0')}Z`,
      note,
    });
  const tickNext = () => {
    const { next } = sheet();
    if (next) add({ type: 'tick', stepId: next.id, effect: effectOf(next) });
    return next;
  };
  return {
    ...{ entries, state, sheet, add, tickNext },
    plan: (placement: Placement, setting: 'standard' | 'profile' = 'standard') => {
      target = { placement, setting };
    },
    work: (most = 200) => {
      const steps = [];
      for (let at = 0; at < most; at++) {
        const step = tickNext();
        if (!step) break;
        steps.push(step.id);
      }
      return steps;
    },
  };
}

const anyPlacement = fc
  .array(fc.constantFrom(undefined, eight, sixteen), { minLength: 4, maxLength: 4 })
  .map((modules) =>
    Object.fromEntries(
      desktop.slots.flatMap(({ id }, at) => (modules[at] ? [[id, modules[at]]] : [])),
    ),
  ) as fc.Arbitrary<Placement>;

describe('the fit sheet', () => {
  test('worked off from top to bottom always ends in the plan, whatever was found', () => {
    fc.assert(
      fc.property(anyPlacement, anyPlacement, (found, wanted) => {
        const bench = benchOf(desktop, found, map);
        bench.plan(wanted);
        const before = bench.sheet();
        const steps = bench.work();
        expect(samePlacement(bench.state().placement, wanted)).toBe(true);
        expect(new Set(steps).size).toBe(steps.length);
        expect(before.opens).toBe(!samePlacement(found, wanted));
        if (!before.opens) {
          expect(steps).toEqual([]);
          return;
        }
        // A slot is emptied before it is filled, and all of it between opening and closing.
        const pull = steps.findLastIndex((id) => id.startsWith('pull '));
        const seat = steps.findIndex((id) => id.startsWith('seat '));
        if (seat >= 0) expect(pull).toBeLessThan(seat);
        expect(steps.indexOf('unplug')).toBeLessThan(steps.indexOf('lift the cover'));
        expect(steps.at(-1)).toBe(START);
      }),
      { numRuns: often(80) },
    );
  });

  test('a plan changed half-way keeps what is done and works out the rest anew', () => {
    fc.assert(
      fc.property(
        anyPlacement,
        anyPlacement,
        anyPlacement,
        fc.nat(20),
        (found, first, second, at) => {
          const bench = benchOf(desktop, found, map);
          bench.plan(first);
          const done = bench.work(at);
          bench.plan(second);
          const ids = bench.sheet().steps.map(({ id }) => id);
          if (done.includes('uncover p1')) for (const id of done) expect(ids).toContain(id);
          bench.work();
          expect(samePlacement(bench.state().placement, second)).toBe(true);
        },
      ),
      { numRuns: often(60) },
    );
  });

  test('taken back or rolled back, what was found sits in it again', () => {
    fc.assert(
      fc.property(anyPlacement, anyPlacement, (found, wanted) => {
        const bench = benchOf(desktop, found);
        bench.plan(wanted);
        bench.work();
        bench.add({ type: 'begin', purpose: 'roll back', slotIds: [] });
        bench.plan(found);
        const again = bench.work();
        expect(samePlacement(bench.state().placement, found)).toBe(true);
        expect(again.length > 0).toBe(!samePlacement(found, wanted));
        const other = benchOf(desktop, found);
        other.plan(wanted);
        other.work();
        for (const { id } of [...other.entries]) other.add({ type: 'undo', of: id });
        expect(samePlacement(other.state().placement, found)).toBe(true);
        expect(other.state().round.ticks.size).toBe(0);
      }),
      { numRuns: often(40) },
    );
  });

  test('a mere setting opens nothing: no tools, no screws, no straps', () => {
    const bench = benchOf(desktop, { a1: eight }, map);
    bench.plan({ a1: eight }, 'profile');
    const sheet = bench.sheet();
    expect(sheet.opens).toBe(false);
    expect(sheet.steps.map(({ id }) => id)).toEqual(['set profile', START]);
    expect(toolsFor(desktop, map, sheet.opens)).toEqual([]);
    expect(cautionsFor(desktop, sheet, 'profile')).toEqual(['data', 'profile']);
    bench.work();
    expect(bench.state().setting).toBe('profile');
  });

  test('asks only for what this machine and this customer still need', () => {
    const idsOf = (machine: Machine, consents: Parameters<typeof fitSheet>[0]['consents']) => {
      const bench = benchOf(machine, {}, undefined, consents);
      bench.plan({ a1: eight });
      return bench.sheet().steps.map(({ id }) => id);
    };
    const asked = idsOf(desktop, {
      dataBackedUp: 'no',
      openCase: 'not asked',
      warrantySeal: 'yes',
    });
    expect(asked.slice(0, 2)).toEqual(['ask to open', 'back up']);
    expect(idsOf(desktop, agreed)).not.toContain('battery off');
    // A laptop of which nobody knows how its battery comes off is treated as having one inside.
    expect(idsOf(laptop, agreed)).toContain('battery off');
    const access = { ...laptop.access, battery: 'service mode' as const };
    expect(idsOf({ ...laptop, access }, agreed)).toContain('service mode');
    expect(idsOf({ ...laptop, access }, agreed)).not.toContain('shut down');
  });

  test('modules that stay in the machine lie aside; others go where they belong', () => {
    const bench = benchOf(desktop, { a1: eight, a2: eight, b1: sixteen });
    bench.plan({ a1: eight, b2: eight });
    const to = Object.fromEntries(
      bench
        .sheet()
        .steps.flatMap(({ task }) => (task.type === 'pull' ? [[task.slotId, task.to]] : [])),
    );
    expect(to).toEqual({ a2: 'aside', b1: 'drawer' });
  });

  test('two who tick the same step: the first stands', () => {
    const bench = benchOf(desktop, { a1: eight });
    bench.plan({ a1: sixteen });
    bench.add({ type: 'tick', stepId: 'unplug' }, 'Anwen');
    bench.add({ type: 'tick', stepId: 'unplug' }, 'Bram');
    expect(bench.state().round.ticks.get('unplug')?.by).toBe('Anwen');
  });
});

describe('the cover map', () => {
  test('closes in the reverse of how it opened: coverings, screws, clips, cables', () => {
    expect(openingActs(map).map(({ id }) => id)).toEqual([
      ...['uncover p1', 'undo p1', 'undo p2', 'undo p3', 'pry c1', 'unplug k1'],
    ]);
    expect(closingActs(map).map(({ id }) => id)).toEqual([
      ...['plug k1', 'press c1', 'drive p3', 'drive p2', 'drive p1', 'cover p1'],
    ]);
  });

  test('nothing is left over when all is done, and never less than nothing on the way', () => {
    const acts = [...openingActs(map), ...closingActs(map)].map(({ id }) => id);
    const counts = acts.map((_, at) =>
      trayOf(map, new Set(acts.slice(0, at + 1))).reduce((sum, { count }) => sum + count, 0),
    );
    // Captive screws never lie in the tray.
    expect(Math.max(...counts)).toBe(2);
    expect(counts.at(-1)).toBe(0);
  });

  test('names a screw too long or too short for its hole; what is not known is not judged', () => {
    const part = map.parts[2] as Extract<CoverPart, { kind: 'fastener' }>;
    expect(lengthFault(part, 6)).toEqual({ type: 'too long', wanted: 4, taken: 6 });
    expect(lengthFault(part, 3)?.type).toBe('too short');
    expect(lengthFault(part, 4)).toBeUndefined();
    expect(lengthFault({ ...part, length: 'unknown' }, 6)).toBeUndefined();
  });

  test('finds parts outside, on one spot, of one id; a map without any part is sound', () => {
    const faultsOf = (...parts: CoverPart[]) =>
      findCoverFaults({ ...map, parts }).map(({ type }) => type);
    expect(faultsOf()).toEqual([]);
    expect(faultsOf(...map.parts)).toEqual([]);
    expect(faultsOf(screw('p99', 4))).toEqual(['outside']);
    expect(faultsOf(screw('p1', 4), { ...screw('p2', 4), x: 11 })).toEqual(['same spot']);
    expect(faultsOf(screw('p1', 4), { ...screw('p5', 4), id: 'p1' })).toEqual(['same id']);
  });
});

describe('the first start', () => {
  const known: Machine = { ...desktop, controllerLimit: 2666 as never, unevenChannels: 'zone' };
  const expected = {
    machine: known,
    placement: { a1: eight, b1: eight },
    setting: 'standard',
  } as const;
  const likely = (kind: Parameters<typeof judgeReading>[0], value: never) =>
    judgeReading(kind, value, expected)?.likely;

  test('takes longer with a generation that trains, and with more of it', () => {
    const short = expectStart(desktop, { a1: eight });
    const long = expectStart(laptop, {
      a1: { ...eight, generation: 'DDR5', capacity: 48 as never },
      b1: { ...eight, generation: 'DDR5', capacity: 48 as never },
    });
    expect(long.worry).toBeGreaterThan(short.worry);
    expect(long.because).toEqual(['generation', 'much memory']);
    for (const { usual, worry } of [short, long]) expect(worry).toBeGreaterThan(usual);
  });

  test('every reading as planned is good, and half the rate is the clock of the same', () => {
    for (const [kind, value] of [
      ['picture', true],
      ['firmware total', 16],
      ['slots', ['a1', 'b1']],
      ['rate', 2666],
      ['rate', 1333],
      ['profile', false],
      ['system total', 15.9],
      ['usable', 15.8],
    ] as const) {
      const judged = judgeReading(kind, value, expected);
      expect(judged, `${kind} ${String(value)}`).toMatchObject({
        isGood: true,
        symptom: undefined,
      });
    }
    expect(judgeReading('rate', 1333, expected)?.unitTrap).toBe(true);
  });

  test('what is off has its likely reason', () => {
    expect(likely('firmware total', 8 as never)).toEqual({
      type: 'not seen',
      choices: [['a1'], ['b1']],
    });
    expect(likely('firmware total', 12 as never)).toEqual({ type: 'some not seen', missing: 4 });
    expect(likely('slots', ['a1'] as never)).toEqual({ type: 'not seen', choices: [['b1']] });
    expect(likely('slots', ['a1', 'a2'] as never)).toMatchObject({ type: 'other slots' });
    expect(judgeReading('slots', ['a1', 'a2'], expected)?.symptom).toBe('one channel wide');
    expect(likely('rate', 2133 as never)).toMatchObject({ type: 'slower', isStandard: false });
    expect(likely('rate', 7 as never)).toEqual({ type: 'no rate' });
    expect(likely('usable', 12 as never)).toMatchObject({ type: 'reserved', share: 0.25 });
    expect(likely('system total', 3.5 as never)).toEqual({ type: 'kept from the system' });
    expect(placementShown(expected, ['a1', 'a2'])).toEqual({ a1: eight, a2: eight });
  });

  test('where nothing can run nothing is expected', () => {
    expect(judgeReading('firmware total', 8, { ...expected, placement: {} })).toBeUndefined();
  });
});
