import { describe, expect, test } from 'vitest';
import { shipped } from '../../test/support/exercises.ts';
import { playPar } from './index.ts';
import type { Action, Exercise } from './index.ts';

const acts = (exercise: Exercise) => playPar(exercise).actions.map(({ type }) => type);
const ordered = (exercise: Exercise) =>
  playPar(exercise).actions.flatMap((action: Action) =>
    action.type === 'order' ? [action.offerId] : [],
  );

describe('our own way', () => {
  test('opens nothing where nothing has to be opened', () => {
    for (const id of ['purser', 'half-speed', 'radio-log', 'missing-two', 'someones-option'])
      expect([id, acts(shipped(id))]).toEqual([id, expect.not.arrayContaining(['open'])]);
  });

  test('buys nothing where nothing has to be bought, and then the least that does', () => {
    expect(ordered(shipped('two-blues'))).toEqual([]);
    expect(ordered(shipped('half-soldered'))).toEqual(['s8']);
    expect(ordered(shipped('cue-light'))).toEqual(['v16']);
    expect(ordered(shipped('wide-chips'))).toEqual(['s8']);
    expect(ordered(shipped('fast-kit'))).toEqual(['plain']);
    expect(ordered(shipped('four-slots'))).toEqual(['d16x2']);
  });

  test('takes what lies in the drawer before it buys', () => {
    const exercise = shipped('numbered-slots');
    const offers = [
      { id: 'd8', module: exercise.pieces[0]!.module, units: 1, price: 100, days: 1 },
    ];
    expect(ordered({ ...exercise, offers })).toEqual([]);
    const bare = { ...exercise, offers, pieces: exercise.pieces.slice(0, 1) };
    const par = playPar({ ...bare, goal: { ...exercise.goal, budget: 100 } });
    expect(par).toMatchObject({ isSolved: true, world: { spent: 100 } });
  });

  test('goes as far as it can where the goal is out of reach, and says so', () => {
    const exercise = shipped('gangway-laptop');
    const poor = playPar({ ...exercise, goal: { usable: 16, budget: 100 } });
    expect(poor).toMatchObject({ isSolved: false, world: { spent: 0, unsafe: [] } });
    expect(poor.world.over).toBeDefined();
  });

  test('tests memory only where the goal asks for it', () => {
    const exercise = shipped('gangway-laptop');
    expect(acts(exercise)).not.toContain('memory test');
    const asked = { ...exercise, goal: { ...exercise.goal, tested: true } };
    expect(acts(asked)).toContain('memory test');
  });

  test('is the same each time', () => {
    const exercise = shipped('wrong-one');
    expect(playPar(exercise)).toEqual(playPar(exercise));
  });

  test('leaves the machine closed, on its lead, and up', () => {
    for (const id of ['ticket-window', 'gangway-laptop', 'drone-crew', 'deaf-slot']) {
      const { world } = playPar(shipped(id));
      expect([id, world.cover, world.lead, world.power]).toEqual([id, 'on', 'in', 'on']);
      expect(world.battery).not.toBe('off');
    }
  });

  test('sends the bad one of two back, and not both', () => {
    const { world } = playPar(shipped('wrong-one'));
    expect(world.bought).toEqual({ d8: 1 });
    expect(world.places.m2).toEqual({ at: 'mat' });
    expect(world.places.m1).toMatchObject({ at: 'slot', isHome: true });
  });

  test('knows nothing of what is hidden: the same acts lead until something is seen', () => {
    const exercise = shipped('salt-air');
    const sound = { ...exercise, faults: [] };
    const [first, second] = [playPar(exercise).actions, playPar(sound).actions];
    // Switching on and the firmware's page come first, whatever is wrong inside.
    expect(first.slice(0, 2)).toEqual(second.slice(0, 2));
  });
});

test('a set that does not go together is made of one part, whatever a second one costs', () => {
  const exercise = shipped('friday-crash');
  const { world, isSolved } = playPar(exercise);
  const parts = Object.entries(world.places).flatMap(([id, { at }]) =>
    at === 'slot' ? [world.pieces.find((piece) => piece.id === id)?.module.partNumber] : [],
  );
  expect([isSolved, parts.length, new Set(parts).size]).toEqual([true, 2, 1]);
  // With nothing alike to be had, it is said that the goal is out of reach.
  const alone = playPar({ ...exercise, offers: [] });
  expect(alone.isSolved).toBe(false);
  expect(alone.world.unsafe).toEqual([]);
});
