import { expect, test } from 'vitest';
import { SHIPPED, shipped } from '../../test/support/exercises.ts';
import { debriefOf, playPar } from './index.ts';
import type { Action } from './index.ts';

test('our own way gone through again parts from itself nowhere', () => {
  for (const exercise of SHIPPED.filter((_, at) => at % 3 === 0)) {
    const par = playPar(exercise);
    const debrief = debriefOf(exercise, par.actions, par);
    expect(debrief).toMatchObject({ isSolved: true, partedAt: undefined, leftOut: [] });
    expect(debrief.turns).toHaveLength(par.actions.length);
    const minutes = debrief.turns.reduce((sum, one) => sum + one.minutes, 0);
    expect(minutes).toBeCloseTo(par.world.minutes, 6);
    expect(debrief.world).toEqual(par.world);
  }
});

test('an act that tells much has many bits, one that told it already none, one that tells nothing none', () => {
  const exercise = shipped('ticket-window');
  const open: Action[] = [
    { type: 'lead', to: 'out' },
    { type: 'hold power' },
    { type: 'open', tool: 'plastic' },
    { type: 'look' },
    { type: 'look' },
  ];
  const { turns, firstCheck } = debriefOf(exercise, open, playPar(exercise));
  const [lead, , , first, again] = turns;
  expect(first?.bits).toBeGreaterThan(0.5);
  expect([lead?.bits, again?.bits]).toEqual([undefined, undefined]);
  expect(firstCheck?.bits).toBeGreaterThan(0.3);
});

test('where the walk parted, what it did beside, and what it left out', () => {
  const exercise = shipped('ticket-window');
  const par = playPar(exercise);
  const walk: Action[] = [
    { type: 'switch', to: 'on' },
    { type: 'wait', minutes: 5 },
    { type: 'memory test' },
    { type: 'look' },
    { type: 'hand over', finding: 'bad module' },
  ];
  const { turns, partedAt, leftOut, lines, isSolved } = debriefOf(exercise, walk, par);
  // A look at a closed machine is none, and takes no turn.
  expect(turns.map(({ action: { type } }) => type)).toEqual([
    ...['switch', 'wait', 'memory test', 'hand over'],
  ]);
  expect(partedAt).toBe(2);
  expect(leftOut.map(({ type }) => type)).toEqual(expect.arrayContaining(['open', 'strap']));
  expect(isSolved).toBe(false);
  expect(lines.flatMap(({ what, holds }) => (holds ? [] : [what]))).toEqual(
    expect.arrayContaining(['usable', 'finding']),
  );
});

test('an unsafe act stands at its turn', () => {
  const exercise = shipped('deck-plan');
  const { turns } = debriefOf(exercise, [{ type: 'open', tool: 'plastic' }], playPar(exercise));
  expect(turns).toMatchObject([{ unsafe: 'opened under power', bits: undefined, isOnPar: true }]);
});
