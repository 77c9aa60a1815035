import fc from 'fast-check';

/**
 * What properties draw is the same every time, so that the same code is always judged alike; the night
 * draws anew (`npm run night -- draws`) and says with which number what broke comes again.
 */
const USUAL = 20_261_130;
const anew = process.env['TEMBRIX_DRAWS'];
/** Whether it is night: worlds nobody drew before, and all there are of some by day. */
export const isAnew = anew !== undefined;

fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(anew ?? USUAL) });

/** How often a slow property draws: where every run draws the same, more of it belongs into the night. */
export const often = (byDay: number, byNight = 5 * byDay): number => (isAnew ? byNight : byDay);

/** Draws of a walk that has to come by every turn there is: by day the ones known to. */
export const walking = (byDay: number, seed: number, byNight?: number) => ({
  numRuns: often(byDay, byNight),
  seed: Number(anew ?? seed),
});
