import { describe, expect, test } from 'vitest';
import { expectSound } from '../../test/support/soundWords.ts';
import { readCarryCode, readFrames, runsFromRows } from '../proving/index.ts';
import {
  explainCarryFault,
  explainFrameFault,
  explainFrameGain,
  explainRunsTableFault,
  frameCautions,
} from './index.ts';

describe('what cannot be read says what would mend it', () => {
  const code = (typed: string) => {
    const read = readCarryCode(typed);
    if (read.ok) throw new Error(`expected “${typed}” to be refused`);
    return explainCarryFault(read.fault);
  };

  test.each([
    ['', '0 characters instead of 32'],
    ['ABCD', '4 characters instead of 32'],
    ['0000 0000 0000 0#00 0000 0000 0000 0000', '“#” in group 4 is no character of a code'],
    ['1111 2222 3333 4444 5555 6666 7777 8888', 'The code does not add up'],
  ])('the carry code “%s”: %s', (typed, title) => {
    expectSound(code(typed));
    expect(code(typed)).toMatchObject({ title, mend: expect.stringMatching(/\S/) as string });
  });

  test.each([
    ['', 'There are no numbers in it'],
    ['a,b\nx,y\n', 'There are no numbers in it'],
    ['step\n-4\n-5\n-9\n-7\n', 'No column looks like frames'],
    ['ms\n16.7\n16.6\n', 'Only 2 frames'],
  ])('the frame log %j: %s', (text, title) => {
    const log = readFrames(text);
    if (!('type' in log)) throw new Error('expected the log to be refused');
    expectSound(explainFrameFault(log));
    expect(explainFrameFault(log)).toMatchObject({
      ...{ title, mend: expect.stringMatching(/\S/) as string },
    });
  });

  test.each([
    ['test\ncopy', 'There is no column “runs”'],
    ['runs\n1 2', 'There is no column “test”'],
    ['test,runs,measured\ncopy,1 2,charm', 'Row 2: “charm” is nothing measured here'],
    ['test,runs\n,1 2', 'Row 2: the test has no name'],
    ['test,runs\n,\ncopy,one', 'Row 3: “one” is not a number'],
    ['test,runs,measured\nmark,1 2,score', 'Row 2: it is not said which way'],
    ['test,runs,unit\ncopy,1 2,MB/s', 'Row 2: MB/s instead of GB/s'],
  ])('the table of runs %j: %s', (text, title) => {
    const rows = text.split('\n').map((line) => line.split(','));
    const [fault] = runsFromRows(rows).faults;
    if (!fault) throw new Error('expected a fault');
    expectSound(explainRunsTableFault(fault));
    expect(explainRunsTableFault(fault).title).toContain(title);
    expect(explainRunsTableFault(fault).mend).toMatch(/\S/);
  });

  test('what deserves a word about a frame log', () => {
    const titles = (frames: number, skipped: number, restarts: number[]) => {
      const words = frameCautions({ summary: { frames }, skipped, restarts, isCut: false });
      words.forEach(expectSound);
      return words.map(({ title }) => title);
    };
    expect(titles(5000, 0, [])).toEqual([]);
    expect(titles(50, 1, [20])).toEqual([
      'Only 50 frames: the lows say nothing',
      'The clock starts anew once',
      '1 row left out',
    ]);
    expect(titles(5000, 3, [20, 40])).toEqual(['The clock starts anew 2 times', '3 rows left out']);
  });

  test.each([
    [1.2, 1.1, 1.3, 'Faster'],
    [0.8, 0.7, 0.9, 'Slower'],
    [1, 0.95, 1.05, 'Inside the noise'],
  ])('a mean rate ×%d (%d to %d): %s', (factor, low, high, says) => {
    const change = { factor, low, high };
    const words = explainFrameGain({
      ...change,
      ...{ lowAverage: change, lowPercentile: change, memory: 0.3, record: {} },
    });
    expectSound(words);
    expect(words.title.startsWith(says)).toBe(true);
  });
});
