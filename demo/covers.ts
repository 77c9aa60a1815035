import type { CoverMap, CoverPart, Covering } from '#core/fitting';
import type { MACHINES } from './machines.ts';

const screw = (
  id: string,
  [x, y]: readonly [number, number],
  size: string,
  length: number,
  more: { captive?: boolean; under?: Covering } = {},
): CoverPart => ({
  ...{ kind: 'fastener', id, x, y, size, length },
  drive: size.startsWith('T') ? 'star' : 'cross',
  ...{ captive: false, under: 'nothing', ...more },
});

/** How covers of the demo world open, as somebody drew them. */
export const COVERS: Partial<Record<keyof typeof MACHINES, CoverMap>> = {
  cueLaptop: {
    ...{ width: 312, height: 221, note: 'Pry at the hinge side first; the speaker wire is short.' },
    parts: [
      screw('p1', [16, 16], 'PH1', 8, { under: 'foot' }),
      screw('p2', [296, 16], 'PH1', 8, { under: 'foot' }),
      screw('p3', [156, 14], 'PH1', 8),
      screw('p4', [14, 112], 'PH1', 5),
      screw('p5', [298, 112], 'PH1', 5),
      screw('p6', [20, 207], 'PH1', 5),
      screw('p7', [156, 209], 'PH1', 5, { captive: true }),
      screw('p8', [292, 207], 'PH1', 5),
      { kind: 'clip', id: 'p9', x: 90, y: 10 },
      { kind: 'clip', id: 'p10', x: 222, y: 10 },
      { kind: 'cable', id: 'p11', x: 60, y: 60, what: 'speaker wire' },
    ],
  },
  droneLaptop: {
    ...{ width: 360, height: 248, note: '' },
    parts: [
      screw('p1', [20, 18], 'T5', 6),
      screw('p2', [340, 18], 'T5', 6),
      screw('p3', [180, 124], 'T5', 3, { under: 'label' }),
      screw('p4', [20, 230], 'T5', 6),
      screw('p5', [340, 230], 'T5', 6),
    ],
  },
  counterDesktop: {
    ...{ width: 370, height: 350, note: 'Slides back 15 mm, then lifts.' },
    parts: [
      { ...screw('p1', [360, 60], '', 6, { captive: true }), drive: 'thumb' } as CoverPart,
      { ...screw('p2', [360, 290], '', 6, { captive: true }), drive: 'thumb' } as CoverPart,
    ],
  },
};
