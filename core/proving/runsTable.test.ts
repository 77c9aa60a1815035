import { describe, expect, test } from 'vitest';
import { findRunFaults, readRuns, runsFromRows, runsToRows } from './index.ts';
import type { TabledRuns } from './index.ts';

test('runs are read with either decimal mark, and every slip is named', () => {
  expect(readRuns('31.2 30,9; 31.4 GB/s\n30.8')).toEqual({
    runs: [31.2, 30.9, 31.4, 30.8],
    sittings: [],
    faults: [],
  });
  expect(readRuns('31.2, 30.9, x')).toEqual({
    runs: [31.2, 30.9],
    sittings: [],
    faults: [{ type: 'not-a-number', text: 'x' }],
  });
  const types = (runs: number[], warmUp = 0) =>
    findRunFaults('bandwidth', runs, warmUp).map(({ type }) => type);
  expect(types([-1, NaN, 0])).toEqual(['not-positive', 'not-positive', 'not-positive']);
  expect([types([]), types([99_999]), types([30], 1)]).toEqual([
    ['no-runs'],
    ['too-large'],
    ['all-warm-up'],
  ]);
});

describe('runs as a table', () => {
  const taken: TabledRuns = {
    ...{ metric: 'bandwidth' as const, test: 'copy, large', runs: [14.1, 14.2], warmUp: 0 },
    ...{ power: 'battery' as const, resolution: '1 GB', tool: 'page', conditions: 'all closed' },
  };

  test('what goes out comes in again', () => {
    const score = { ...taken, metric: 'score', sense: 'lower', activity: 'games' } as const;
    expect(runsFromRows(runsToRows([taken, score]))).toEqual({ runs: [taken, score], faults: [] });
  });

  test('minutes come in as they are read off a clock', () => {
    expect(readRuns('12:30 12.5min 750s 750')).toMatchObject({
      ...{ runs: [750, 750, 750, 750], faults: [] },
    });
    expect(readRuns('12:75').faults).toHaveLength(1);
  });

  test('columns in any order, runs in columns of their own, commas as decimal marks', () => {
    const rows = [
      ['Run 1', 'Test', 'Run 2', 'Run 3'],
      ['14,1', 'copy', '14,2', ''],
    ];
    expect(runsFromRows(rows).runs).toMatchObject([{ test: 'copy', runs: [14.1, 14.2] }]);
  });

  test.each([
    [
      [
        ['test', 'score'],
        ['a', '1'],
      ],
      [{ type: 'column-missing', column: 'runs', row: 1 }],
    ],
    [
      [
        ['test', 'runs', 'measured'],
        ['a', '1', 'noise'],
      ],
      [{ type: 'unknown-measure', row: 2, text: 'noise' }],
    ],
    [
      [
        ['test', 'runs', 'measured'],
        ['a', '1', 'score'],
      ],
      [{ type: 'no-sense', row: 2 }],
    ],
    [
      [
        ['test', 'runs', 'unit'],
        ['a', '1', 'MB/s'],
      ],
      [{ type: 'wrong-unit', row: 2, text: 'MB/s', wanted: 'GB/s' }],
    ],
    [
      [
        ['test', 'runs'],
        ['', '1'],
      ],
      [{ type: 'no-test', row: 2 }],
    ],
    [
      [
        ['test', 'runs'],
        ['a', 'x 1'],
      ],
      [{ type: 'runs', row: 2, fault: { type: 'not-a-number', text: 'x' } }],
    ],
  ])('%j names the row and keeps the others', (rows, faults) => {
    const good = rows[0]?.includes('runs') ? [['good', '2', '', '']] : [];
    const read = runsFromRows([...rows, ...good]);
    expect(read.faults).toEqual(faults);
    expect(read.runs).toHaveLength(good.length);
  });
});
