import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import type { Machine, Placement } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { dataRate } from '../units/index.ts';

// Every limit on the rate in full: what it is, whether it binds, and what would run without it.

const at = (bin: string) => labelled(`8GB 1Rx8 PC4-${bin}-UA1-11`);
const [slow, mid, fast] = [at('2400T'), at('2666V'), at('3200AA')];
const profile = (rate: number) =>
  labelled(`8GB 1Rx8 PC4-2400T-UA1-11 profile ${rate} CL16-18-18 1.35V`);
const row = (modulesPerChannel: number, ranksPerChannel: number, rate: number) => ({
  ...{ modulesPerChannel, ranksPerChannel, rate: dataRate(rate) },
});

function rungs(
  machine: Partial<Machine>,
  placement: Placement,
  setting: 'standard' | 'profile' = 'standard',
): string[] {
  const point = running(desktop(machine), placement, setting);
  return point.rungs.map(({ rule, limit, role, slotIds, load, liftsTo }) =>
    [
      ...[`${rule} ${limit} ${role}`, slotIds.map((id) => id ?? 'soldered').join('+')],
      ...[load && `channel ${load.channel}`, liftsTo && `else ${liftsTo}`],
    ]
      .filter(Boolean)
      .join(', '),
  );
}
const free = ['controller 3200 slack', 'firmware-cap none idle'];
const noTable = 'rate-table unknown idle';

describe('the slowest module', () => {
  test('binds, and the next slowest would run without it', () => {
    expect(rungs({}, { a1: slow, a2: fast, b1: mid, b2: fast })).toEqual([
      'slowest-module 2400 binds, a1, else 2666',
      ...[noTable, ...free],
    ]);
  });

  test('of several as slow, all are named; alike throughout, the controller is next', () => {
    expect(rungs({}, { a1: slow, b1: slow, b2: fast })[0]).toBe(
      'slowest-module 2400 binds, a1+b1, else 3200',
    );
    expect(rungs({}, { a1: slow, b1: slow })[0]).toBe(
      'slowest-module 2400 binds, a1+b1, else 3200',
    );
    expect(rungs({ controllerLimit: 'unknown' }, { a1: slow, b1: slow })).toEqual([
      'slowest-module 2400 binds, a1+b1',
      ...[noTable, 'controller unknown idle', 'firmware-cap none idle'],
    ]);
  });

  test('soldered, cannot be changed for a faster one', () => {
    const soldered = [{ channel: 'A', part: slow }] as unknown as Machine['soldered'];
    expect(rungs({ soldered }, { b1: fast })[0]).toBe('slowest-module 2400 binds, soldered');
    // As slow in a slot beside it, changing that one helps no more.
    expect(rungs({ soldered }, { b1: slow, b2: fast })[0]).toBe(
      'slowest-module 2400 binds, soldered+b1',
    );
    const quick = [{ channel: 'A', part: fast }] as unknown as Machine['soldered'];
    expect(rungs({ soldered: quick }, { b1: slow })[0]).toBe(
      'slowest-module 2400 binds, b1, else 3200',
    );
  });
});

describe('the board', () => {
  const pair = { a1: fast, b1: fast };
  test.each([
    [
      { controllerLimit: dataRate(2666) },
      ['slowest-module 3200 slack, a1+b1', noTable, 'controller 2666 binds, else 3200'],
    ],
    [
      { controllerLimit: dataRate(2700) },
      ['slowest-module 3200 slack, a1+b1', noTable, 'controller 2700 binds, else 3200'],
    ],
    [
      { controllerLimit: dataRate(3200) },
      ['slowest-module 3200 binds, a1+b1', noTable, 'controller 3200 binds'],
    ],
  ] as [Partial<Machine>, string[]][])('limits by its controller %j', (machine, expected) => {
    expect(rungs(machine, pair)).toEqual([...expected, 'firmware-cap none idle']);
  });

  test('limits by its firmware, with the controller next', () => {
    const machine = { firmwareCap: dataRate(2400), controllerLimit: dataRate(2666) };
    expect(rungs(machine, pair)).toEqual([
      'slowest-module 3200 slack, a1+b1',
      ...[noTable, 'controller 2666 slack', 'firmware-cap 2400 binds, else 2666'],
    ]);
  });
});

describe('the table of rates', () => {
  const pair = { a1: fast, b1: fast };
  const three = { a1: fast, a2: fast, b1: fast };
  const table = { rateTable: [row(1, 1, 2933), row(1, 2, 2666), row(2, 2, 2400), row(2, 4, 2133)] };
  const flagsOf = (machine: Partial<Machine>, placement: Placement) =>
    running(desktop(machine), placement)
      .flags.filter(({ type }) => type === 'table-row-missing')
      .map((one) => one as { used?: string; load?: { channel: string } })
      .map(({ used, load }) => `${load?.channel}: ${used}`);

  test('is read for the fullest channel', () => {
    expect(rungs(table, pair)[1]).toBe('rate-table 2933 binds, channel A, else 3200');
    expect(rungs(table, three)[1]).toBe('rate-table 2400 binds, channel A, else 3200');
    expect(rungs(table, { a1: fast, b1: fast, b2: fast })[1]).toBe(
      'rate-table 2400 binds, channel B, else 3200',
    );
    expect(flagsOf(table, three)).toEqual([]);
  });

  test('without a row for the ranks takes the next higher one, and says so', () => {
    const gap = { rateTable: [row(1, 4, 2133), row(1, 2, 2666)] };
    expect(rungs(gap, pair)[1]).toBe('rate-table 2666 binds, channel A, else 3200');
    expect(flagsOf(gap, pair)).toEqual(['A: next higher row', 'B: next higher row']);
    const low = { rateTable: [row(2, 1, 2666)] };
    expect(rungs(low, pair)[1]).toBe('rate-table none idle');
    expect(flagsOf(low, pair)).toEqual(['A: none', 'B: none']);
    const two = (module: MemoryModule) => ({ ...module, ranks: 2 });
    const below = { rateTable: [row(1, 1, 2666)] };
    expect(flagsOf(below, { a1: two(fast), b1: two(fast) })).toEqual(['A: none', 'B: none']);
  });

  test('with ranks unknown takes the slowest row that could apply', () => {
    const blind = { ...fast, ranks: 'unknown' as const };
    expect(rungs(table, { a1: blind, b1: fast })[1]).toBe(
      'rate-table 2666 binds, channel A, else 3200',
    );
  });

  test('of no rows is unknown, not none', () => {
    expect(rungs({ rateTable: [] }, pair)[1]).toBe(noTable);
  });
});

describe('profiles', () => {
  const both = { a1: profile(3200), b1: profile(3000) };
  test('run past what controller and table state, which then warn', () => {
    const machine = { controllerLimit: dataRate(2666), rateTable: [row(1, 1, 2933)] };
    expect(rungs(machine, both, 'profile')).toEqual([
      'profile 3000 binds, b1, else 3200',
      ...['rate-table 2933 warning, channel A', 'controller 2666 warning'],
      ...['firmware-cap none idle', 'profile-ceiling none idle'],
    ]);
  });

  test('at a stated limit do not exceed it', () => {
    const machine = { controllerLimit: dataRate(3000), rateTable: [row(1, 1, 3200)] };
    expect(rungs(machine, both, 'profile').slice(1, 3)).toEqual([
      'rate-table 3200 slack, channel A',
      'controller 3000 slack',
    ]);
  });

  test('are held by the firmware and by their own ceiling', () => {
    const ceiling = { profiles: { support: 'yes', ceiling: dataRate(2933) } } as const;
    expect(rungs(ceiling, both, 'profile')).toEqual([
      'profile 3000 slack, b1',
      ...[noTable, 'controller 3200 slack', 'firmware-cap none idle'],
      'profile-ceiling 2933 binds, else 3000',
    ]);
    expect(rungs({ firmwareCap: dataRate(2666) }, both, 'profile')[3]).toBe(
      'firmware-cap 2666 binds, else 3000',
    );
  });

  test('are not in play at the standard setting, nor where one module lacks them or the board does', () => {
    expect(rungs({}, both)).toEqual([
      'slowest-module 2400 binds, a1+b1, else 3200',
      ...[noTable, ...free],
    ]);
    expect(rungs({}, { a1: profile(3200), b1: slow }, 'profile')[0]).toMatch(/^slowest-module/);
    const none = { profiles: { support: 'no', ceiling: 'none' } } as const;
    expect(rungs(none, both, 'profile')[0]).toMatch(/^slowest-module/);
  });
});
