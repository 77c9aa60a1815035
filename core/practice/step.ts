import type { Cannot, Seen } from './seen.ts';
import type { Unsafe, World } from './world.ts';

/** A world after an act, what was seen and what was unsafe about it; its time not yet counted. */
export type Step = readonly [World, Seen, Unsafe?];

/** It is not possible now: nothing happens. */
export const cannot = (world: World, why: Cannot): Step => [world, { type: 'cannot', why }];

/** It is done, and there is nothing to see. */
export const done = (world: World): Step => [world, { type: 'done' }];
