import { judgeFrames, readFrames, summariseFrames } from '#core/proving';
import { seededRandom } from '#core/units';
import type { Row } from './table.ts';

const FRAMES = 1_000_000;

/** A log of a million frames with scenes and hitches, as a recorder writes it. */
export function bigLog(seed: number): string {
  const random = seededRandom(seed);
  let drift = 0;
  const rows = Array.from({ length: FRAMES }, () => {
    drift = 0.98 * drift + 0.3 * (random() - 0.5);
    const hitch = random() < 0.001 ? 40 * random() : 0;
    return (12 + drift + random() + hitch).toFixed(4);
  });
  return ['FrameTime', ...rows].join('\n');
}

const timed = <T>(run: () => T): [T, number] => {
  const start = performance.now();
  const result = run();
  return [result, performance.now() - start];
};

/** A million frames: read, summarised, compared; beside it the plainest pass over the same text. */
export function benchFrames(): Row[] {
  const text = bigLog(1);
  const [, plain] = timed(() =>
    text.split('\n').reduce((sum, line) => sum + Number(line) || sum, 0),
  );
  const [log, read] = timed(() => readFrames(text));
  if ('type' in log) throw new Error(log.type);
  const [, summarised] = timed(() => summariseFrames(log.times));
  const [, compared] = timed(() => judgeFrames(log.times, log.times));
  const all = read + summarised + compared;
  const ms = (value: number) => `${Math.round(value)} ms`;
  return [
    {
      what: 'a million frames read, summarised, 2,000 block draws',
      measured: ms(all),
      wanted: '< 2000 ms',
      holds: all < 2000,
      yardstick: `splitting and adding alone ${ms(plain)}; read ${ms(read)}, summary ${ms(summarised)}, draws ${ms(compared)}`,
    },
  ];
}
