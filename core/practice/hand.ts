import { fitSheet, foldLog } from '../fitting/index.ts';
import type { PlainStep, SheetStep } from '../fitting/index.ts';
import type { Placement, Setting, SlotId } from '../machine/index.ts';
import { act } from './act.ts';
import { LONGEST_WAIT } from './actions.ts';
import type { Action } from './actions.ts';
import type { PieceId } from './exercise.ts';
import { bandwidthOf, measuredOn } from './measuring.ts';
import { statusOf } from './running.ts';
import type { Status } from './running.ts';
import type { Seen } from './seen.ts';
import { beginWorld, pieceIn, sitting } from './world.ts';
import type { World } from './world.ts';
import type { Exercise } from './exercise.ts';

/** Which piece shall sit in which slot. */
export type Seats = Readonly<Record<SlotId, PieceId>>;

/** Where each piece sits now. */
export function seatsOf(world: World): Seats {
  return Object.fromEntries(
    world.exercise.machine.slots.flatMap(({ id }) => {
      const piece = pieceIn(world, id);
      return piece ? [[id, piece.id]] : [];
    }),
  );
}

/** A step that is already so needs no act. */
const PLAIN: Readonly<Partial<Record<PlainStep, (world: World) => Action[]>>> = {
  'shut down': ({ power }) => (power === 'on' ? [{ type: 'switch', to: 'off' }] : []),
  'service mode': ({ power, battery }) => [
    ...(power === 'on' ? [{ type: 'switch', to: 'off' } as const] : []),
    ...(battery === 'on' ? [{ type: 'battery', to: 'off' } as const] : []),
  ],
  unplug: ({ lead }) => (lead === 'in' ? [{ type: 'lead', to: 'out' }] : []),
  'battery out': ({ battery }) => (battery === 'on' ? [{ type: 'battery', to: 'off' }] : []),
  drain: ({ isDrained }) => (isDrained ? [] : [{ type: 'hold power' }]),
  'ground yourself': ({ hasStrap }) => (hasStrap ? [] : [{ type: 'strap', to: 'on' }]),
  'lift the cover': ({ cover }) => (cover === 'on' ? [{ type: 'open', tool: 'plastic' }] : []),
  'battery off': ({ battery }) => (battery === 'on' ? [{ type: 'battery', to: 'off' }] : []),
  'look along the slots': () => [{ type: 'look' }],
  'battery on': ({ battery }) => (battery === 'off' ? [{ type: 'battery', to: 'on' }] : []),
  'set the cover on': ({ cover }) => (cover === 'off' ? [{ type: 'close' }] : []),
  'plug in': ({ lead }) => (lead === 'out' ? [{ type: 'lead', to: 'in' }] : []),
};

/** The hands of the policy: does acts one by one, as the fit sheet has them, and keeps what was seen. */
export class Hand {
  world: World;
  readonly actions: Action[] = [];

  constructor(exercise: Exercise) {
    this.world = beginWorld(exercise);
  }

  do(action: Action): Seen {
    const { world, seen, unsafe } = act(this.world, action);
    this.actions.push(action);
    if (unsafe) throw new Error(`expected a safe act, received ${JSON.stringify(action)}`);
    this.world = world;
    return seen;
  }

  /** Steps of the sheet by name; those that are already so cost nothing. */
  plain(...steps: readonly PlainStep[]): Seen[] {
    return steps.flatMap((step) => (PLAIN[step]?.(this.world) ?? []).map((one) => this.do(one)));
  }

  open(): void {
    const { battery } = this.world.exercise.machine.access;
    this.plain('shut down', 'unplug');
    if (battery === 'taken out from outside' || battery === 'service mode')
      this.plain('battery out');
    this.plain('drain', 'ground yourself', 'lift the cover', 'battery off');
  }

  close(): void {
    const isOutside = this.world.cover === 'on';
    if (!isOutside) this.plain('battery on', 'set the cover on');
    this.plain('battery on', 'plug in');
  }

  /** Closed, on its lead and switched on, training waited for. */
  start(): Status {
    this.close();
    if (this.world.power === 'off') this.do({ type: 'switch', to: 'on' });
    while (this.world.training > 0)
      this.do({ type: 'wait', minutes: Math.min(LONGEST_WAIT, this.world.training) });
    return statusOf(this.world);
  }

  /** Runs the measuring page and reads its figure, GB/s. */
  measure(): number {
    this.do({ type: 'measure' });
    const result = measuredOn(this.world);
    return result ? bandwidthOf(result) : 0;
  }

  /** Moves pieces until these seats are taken and no other, by the fit sheet of the house. */
  fit(seats: Seats): void {
    const { machine, cover } = this.world.exercise;
    const of = (wanted: Seats): Placement =>
      Object.fromEntries(
        Object.entries(wanted).flatMap(([slotId, pieceId]) => {
          const piece = this.world.pieces.find(({ id }) => id === pieceId);
          return piece ? [[slotId, { ...piece.module, partNumber: pieceId }]] : [];
        }),
      );
    const found = of(seatsOf(this.world));
    const setting = this.world.setting;
    const sheet = fitSheet({
      ...{ machine, map: cover, found, pulledTo: 'drawer' },
      state: foldLog([], { placement: found, setting }),
      target: { placement: of(seats), setting },
      consents: { dataBackedUp: 'yes', openCase: 'yes', warrantySeal: 'yes' },
    });
    for (const step of sheet.steps) this.#take(step, seats);
  }

  #take({ task }: SheetStep, seats: Seats): void {
    if (task.type === 'plain') this.plain(task.step);
    else if (task.type === 'pull') this.do({ type: 'pull', slotId: task.slotId });
    else if (task.type === 'seat') this.seat(seats[task.slotId] ?? '', task.slotId);
  }

  /** With the machine open: in, the right way round, both sides down. */
  seat(pieceId: PieceId, slotId: SlotId): void {
    this.do({ type: 'seat', pieceId, slotId, way: 'right', pressed: 'both' });
  }

  /** Takes modules out, cleans them and presses them home. */
  reseat(slotIds: readonly SlotId[]): void {
    this.open();
    for (const slotId of slotIds) {
      const piece = pieceIn(this.world, slotId);
      if (!piece) continue;
      this.do({ type: 'pull', slotId });
      this.do({ type: 'clean', pieceId: piece.id });
      this.seat(piece.id, slotId);
    }
  }

  set(setting: Setting): void {
    if (this.start().type === 'up' && this.world.setting !== setting)
      this.do({ type: 'set', setting });
  }

  get sitting(): Placement {
    return sitting(this.world);
  }
}
