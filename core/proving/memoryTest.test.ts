import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { judgeMemoryTest, memoryTestState, passNeeded, testFieldsFromRows } from './index.ts';
import type { MemoryTest } from './index.ts';

const night: MemoryTest = {
  ...{ kind: 'before the system starts', minutes: 500, passes: 6, errors: 0 },
  ...{ fingerprint: 'a', setting: 'standard' },
};
const eight = labelled('8GB 1Rx8 PC4-2666V-UA1-11');
const named = (partNumber: string) => ({ ...eight, maker: 'Orlo', partNumber });

describe('a memory test', () => {
  test.each([
    [{}, 'passed'],
    [{ errors: 1 }, 'failed'],
    [{ passes: 0 }, 'too short'],
    // A running system never reaches all memory, so time makes up for it.
    [{ kind: 'in the running system', minutes: 30 }, 'too short'],
    [{ kind: 'in the running system', minutes: 90 }, 'passed'],
  ] as const)('%o is %s', (more, verdict) => {
    expect(judgeMemoryTest({ ...night, ...more })).toBe(verdict);
  });

  test('counts for its modules and setting only, and one error outweighs any pass', () => {
    const now = { fingerprint: 'a', setting: 'standard' };
    expect(memoryTestState([], now)).toBe('none');
    expect(memoryTestState([night], now)).toBe('passed');
    expect(memoryTestState([night], { ...now, setting: 'profile' })).toBe('on other modules');
    expect(memoryTestState([night, { ...night, errors: 2 }, night], now)).toBe('failed');
    expect(memoryTestState([{ ...night, fingerprint: '*' }], now)).toBe('passed');
  });

  test('is needed for a profile and for a mixed set, not for what may well be one part', () => {
    const machine = desktop();
    const needed = (b1: typeof eight, setting: 'standard' | 'profile' = 'standard') =>
      passNeeded(machine, { a1: named('X'), b1 }, setting);
    expect(needed(named('X'))).toBeUndefined();
    expect(needed(named('Y'))).toBe('mixed set');
    expect(needed({ ...eight, rate: 2400 as never })).toBe('mixed set');
    expect(needed(named('X'), 'profile')).toBe('profile');
    expect(passNeeded(machine, { a1: eight, b1: eight }, 'standard')).toBeUndefined();
  });

  test('fills itself in from a table of totals or of addresses', () => {
    const summary = [
      ['Minutes', 'Passes', 'Errors'],
      ['95,5', '2', '0'],
    ];
    expect(testFieldsFromRows(summary)).toEqual({ minutes: 95.5, passes: 2, errors: 0 });
    const list = [
      ['pass', 'address'],
      ['1', '0x10'],
      ['3', '0x20'],
    ];
    expect(testFieldsFromRows(list)).toEqual({ passes: 3, errors: 2 });
    expect(
      testFieldsFromRows([
        ['a', 'b'],
        ['1', '2'],
      ]),
    ).toEqual({});
    expect(testFieldsFromRows([])).toEqual({});
  });
});
