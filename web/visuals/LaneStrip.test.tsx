import { screen } from '@testing-library/react';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Machine, Placement } from '#core/machine';
import { gib } from '#core/units';
import { anyPlacement } from '../../test/support/arbitraries.ts';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { LaneStrip } from './LaneStrip.tsx';

const small = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const large = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
const even = { a1: large, b1: large };
const uneven = { a1: large, b1: small };

/** What the strip says in words of a placement. */
function said(placement: Placement, more: Partial<Machine> = {}, need?: number): string {
  const machine = desktop(more);
  const { unmount } = show(
    <LaneStrip machine={machine} point={running(machine, placement)} need={need} />,
  );
  const text = screen.getByRole('figure').textContent;
  unmount();
  return text;
}

describe('the lanes', () => {
  test('say in words how much runs side by side, and explain a dull tail only where there is one', () => {
    expect(said(even)).toContain('16 GB dual-channel');
    expect(said(even)).toContain('All runs side by side.');
    expect(said(even)).not.toContain('dull');
    expect(said(uneven)).toContain('8 GB dual-channel');
    expect(said(uneven)).toContain('8 GB single-channel');
    expect(said(uneven)).toContain('dull single-channel');
    expect(said({ a1: large })).toContain('16 GB single-channel');
    expect(said({ a1: large })).toContain('empty');
  });

  test('show a machine that runs an uneven set single-channel as such, and doubt as doubt', () => {
    expect(said(uneven, { unevenChannels: 'single' })).toContain(
      'Dull: this machine runs an uneven set single-channel.',
    );
    const doubtful = said(uneven, { unevenChannels: 'unknown' });
    expect(doubtful).toMatch(/may run the uneven set single-channel.*16 GB would run side by side/);
  });

  test('name the need, and say so where it is more than is fitted', () => {
    expect(said(even, {}, 20)).toMatch(/need 20 GB(?!: more)/);
    expect(said(even, {}, 40)).toContain('need 40 GB: more than is fitted');
    expect(said(even, { graphicsCarveOut: { low: gib(0.25), high: gib(0.5) } }, 20)).toContain(
      'need 20 GB with graphics',
    );
  });

  test('of any placement add up to what is fitted, channel by channel', () => {
    const machine = desktop({}, 4, 2);
    fc.assert(
      fc.property(anyPlacement(fc.constantFrom(small, large)), (placement) => {
        fc.pre(Object.values(placement).some((module) => module !== undefined));
        const point = running(machine, placement);
        const { unmount } = show(<LaneStrip machine={machine} point={point} />);
        const lanes = [...document.querySelectorAll('figure .flex.items-center.py-1')];
        const held = lanes.map((lane) =>
          [...lane.querySelectorAll('span')]
            .map(({ textContent }) => Number(/^[\d.]+/.exec(textContent)?.[0]))
            .reduce((sum, one) => sum + one, 0),
        );
        unmount();
        expect(held).toEqual(point.loads.map(({ capacity }) => capacity));
      }),
      { numRuns: 40 },
    );
  });
});
