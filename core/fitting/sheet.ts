import type { Machine, Placement, Setting, SlotId } from '../machine/index.ts';
import { sameModule } from '../memory/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { closingActs, openingActs } from './coverMap.ts';
import type { CoverAct, CoverMap } from './coverMap.ts';
import { START } from './log.ts';
import type { BenchState, Tick } from './log.ts';

/** Parts of the work, in order. */
export const PHASES = ['prepare', 'open', 'pull', 'fit', 'close', 'start'] as const;
/** See {@link PHASES}. */
export type Phase = (typeof PHASES)[number];

/** Where a pulled module goes: it is seated again, kept by the shop, or given back. */
export type Destination = 'aside' | 'drawer' | 'customer';

/** A step that needs no more than its name. */
export const PLAIN_STEPS = [
  'ask to open',
  'ask about the seal',
  'back up',
  'shut down',
  'service mode',
  'battery out',
  'unplug',
  'drain',
  'cool down',
  'ground yourself',
  'lift the cover',
  'battery off',
  'look along the slots',
  'battery on',
  'set the cover on',
  'nothing left over',
  'put away',
  'plug in',
  'first start',
] as const;
/** See {@link PLAIN_STEPS}. */
export type PlainStep = (typeof PLAIN_STEPS)[number];

/** What a step asks for. */
export type Task =
  | { readonly type: 'plain'; readonly step: PlainStep }
  | { readonly type: 'cover'; readonly act: CoverAct }
  | {
      readonly type: 'pull';
      readonly slotId: SlotId;
      readonly module: MemoryModule;
      readonly to: Destination;
    }
  | { readonly type: 'seat'; readonly slotId: SlotId; readonly module: MemoryModule }
  | { readonly type: 'reseat'; readonly slotId: SlotId; readonly module: MemoryModule }
  | { readonly type: 'set'; readonly setting: Setting };

/** One thing to do, and who has done it. Its id stays the same however often the sheet is made. */
export interface SheetStep {
  readonly id: string;
  readonly phase: Phase;
  readonly task: Task;
  readonly tick: Tick | undefined;
}

/** What the work on one machine takes, told from machine, plan and log. */
export interface FitSheet {
  readonly steps: readonly SheetStep[];
  /** The first step not yet ticked. */
  readonly next: SheetStep | undefined;
  readonly done: number;
  /** Whether the machine is opened at all: a mere setting needs no tool. */
  readonly opens: boolean;
  /** Modules that came out and are not in the machine now, by where they go. */
  readonly pulled: readonly { readonly module: MemoryModule; readonly to: Destination }[];
}

/** What a sheet is made from. */
export interface SheetInput {
  readonly machine: Machine;
  readonly map: CoverMap | undefined;
  readonly found: Placement;
  readonly state: BenchState;
  /** What shall sit in the machine in the end. */
  readonly target: { readonly placement: Placement; readonly setting: Setting };
  readonly consents: {
    readonly [Name in 'dataBackedUp' | 'openCase' | 'warrantySeal']: 'yes' | 'no' | 'not asked';
  };
  /** Whose the pulled modules are. */
  readonly pulledTo: 'drawer' | 'customer';
}

/** Slots in the order they are filled: as the manual has it where it says, else as they lie. */
function fillingOrder({ slots, fillOrder }: Machine): SlotId[] {
  const said = fillOrder === 'unknown' ? [] : fillOrder.flat();
  return [...new Set([...said, ...slots.map(({ id }) => id)])];
}

/** Modules of `from` that `to` has nowhere: what leaves the machine for good. */
export function modulesGone(from: Placement, to: Placement): MemoryModule[] {
  const left = Object.values(to).flatMap((module) => module ?? []);
  return Object.values(from).flatMap((module) => {
    if (!module) return [];
    const at = left.findIndex((one) => sameModule(one, module));
    if (at < 0) return [module];
    left.splice(at, 1);
    return [];
  });
}

/** Pulls and seatings still to be done, each with an id that names its turn at the slot. */
function movesLeft({ machine, state, target, pulledTo }: SheetInput): Omit<SheetStep, 'tick'>[] {
  const { placement, moves } = state;
  const differs = fillingOrder(machine).filter(
    (id) => !sameModule(placement[id], target.placement[id]),
  );
  const stays = Object.fromEntries(
    Object.entries(placement).filter(([id]) => !differs.includes(id)),
  );
  const wanted = differs.flatMap((id) => target.placement[id] ?? []);
  const destination = (module: MemoryModule): Destination => {
    const at = wanted.findIndex((one) => sameModule(one, module));
    if (at < 0) return pulledTo;
    wanted.splice(at, 1);
    return 'aside';
  };
  const boardOrder = machine.slots.map(({ id }) => id).filter((id) => differs.includes(id));
  const pulls = boardOrder.flatMap((slotId): Omit<SheetStep, 'tick'>[] => {
    const module = placement[slotId];
    if (!module || stays[slotId]) return [];
    const id = `pull ${slotId} ${(moves.get(slotId)?.pulled ?? 0) + 1}`;
    return [{ id, phase: 'pull', task: { type: 'pull', slotId, module, to: destination(module) } }];
  });
  const seats = differs.flatMap((slotId): Omit<SheetStep, 'tick'>[] => {
    const module = target.placement[slotId];
    if (!module) return [];
    const id = `seat ${slotId} ${(moves.get(slotId)?.seated ?? 0) + 1}`;
    return [{ id, phase: 'fit', task: { type: 'seat', slotId, module } }];
  });
  return [...pulls, ...seats];
}

/** Moves ticked in this round, as steps. */
function movesDone({ state, pulledTo, found }: SheetInput): SheetStep[] {
  const gone = modulesGone(found, state.placement);
  return [...state.round.ticks.values()].flatMap((tick): SheetStep[] => {
    const { stepId: id, effect } = tick;
    if (effect?.type !== 'slot') return [];
    const { slotId, module } = effect;
    if (id.startsWith('seat ') && module)
      return [{ id, phase: 'fit', task: { type: 'seat', slotId, module }, tick }];
    const out = found[slotId] ?? module;
    if (!out) return [];
    const to = gone.some((one) => sameModule(one, out)) ? pulledTo : 'aside';
    return [{ id, phase: 'pull', task: { type: 'pull', slotId, module: out, to }, tick }];
  });
}

const plain = (phase: Phase, ...steps: readonly PlainStep[]): Omit<SheetStep, 'tick'>[] =>
  steps.map((step) => ({ id: step, phase, task: { type: 'plain', step } }));

const cover = (phase: Phase, acts: readonly CoverAct[]): Omit<SheetStep, 'tick'>[] =>
  acts.map((act) => ({ id: act.id, phase, task: { type: 'cover', act } }));

/** Makes a machine safe to open. */
function preparing({ machine, consents }: SheetInput): Omit<SheetStep, 'tick'>[] {
  const { battery } = machine.access;
  return plain(
    'prepare',
    ...(consents.openCase === 'yes' ? [] : (['ask to open'] as const)),
    ...(consents.warrantySeal === 'yes' ? [] : (['ask about the seal'] as const)),
    ...(consents.dataBackedUp === 'yes' ? [] : (['back up'] as const)),
    ...(battery === 'service mode' ? (['service mode'] as const) : (['shut down'] as const)),
    'unplug',
    ...(battery === 'taken out from outside' ? (['battery out'] as const) : []),
    'drain',
    'cool down',
    'ground yourself',
  );
}

/** Whether a battery has to be parted from the board once the cover is off. */
const hasInsideBattery = ({ kind, access: { battery } }: Machine) =>
  battery === 'connector inside' || (battery === 'unknown' && kind === 'laptop');

/**
 * The sheet for one round of work: never a checklist for all machines, but this cover, this battery,
 * these moves. It is made anew from what sits in the machine now, so a plan that changes half-way
 * changes what is left to do and nothing that is done.
 */
export function fitSheet(input: SheetInput): FitSheet {
  const { machine, map, state, target, found, pulledTo } = input;
  const { round } = state;
  const left = movesLeft(input);
  const done = movesDone(input);
  const reseats = round.slotIds.flatMap((slotId): Omit<SheetStep, 'tick'>[] => {
    const module = state.placement[slotId];
    return round.purpose === 'reseat' && module
      ? [{ id: `reseat ${slotId}`, phase: 'fit', task: { type: 'reseat', slotId, module } }]
      : [];
  });
  const settingTick = round.ticks.get(`set ${target.setting}`);
  const sets: Omit<SheetStep, 'tick'>[] =
    settingTick || state.setting !== target.setting
      ? [
          {
            id: `set ${target.setting}`,
            phase: 'start',
            task: { type: 'set', setting: target.setting },
          },
        ]
      : [];
  const inside = hasInsideBattery(machine);
  const opening: Omit<SheetStep, 'tick'>[] = [
    ...cover('open', map ? openingActs(map) : []),
    ...plain('open', 'lift the cover', ...(inside ? (['battery off'] as const) : [])),
  ];
  // What has been opened has to be closed, even if the plan no longer asks for any move.
  const isOpen = opening.some(({ id }) => round.ticks.has(id));
  const opens = isOpen || left.length + done.length + reseats.length > 0;
  if (!opens && sets.length === 0)
    return { steps: [], next: undefined, done: 0, opens: false, pulled: [] };
  const hasMap = map !== undefined && map.parts.length > 0;
  const puts = done.some(isPull) || left.some(isPull);
  const ticked = (step: Omit<SheetStep, 'tick'>): SheetStep => ({
    ...step,
    tick: round.ticks.get(step.id),
  });
  const opened = [...preparing(input), ...opening];
  const closed: Omit<SheetStep, 'tick'>[] = [
    ...plain('fit', 'look along the slots'),
    ...plain('close', ...(inside ? (['battery on'] as const) : []), 'set the cover on'),
    ...cover('close', map ? closingActs(map) : []),
    ...plain(
      'close',
      ...(hasMap ? (['nothing left over'] as const) : []),
      ...(puts ? (['put away'] as const) : []),
      'plug in',
    ),
  ];
  const inPhase = (phase: Phase) => [
    ...done.filter((step) => step.phase === phase),
    ...left.filter((step) => step.phase === phase).map(ticked),
  ];
  const steps: SheetStep[] = opens
    ? [
        ...opened.map(ticked),
        ...inPhase('pull'),
        ...inPhase('fit'),
        ...[...reseats, ...closed].map(ticked),
        ...plain('start', START).map(ticked),
        ...sets.map(ticked),
      ]
    : [
        ...plain(
          'prepare',
          ...(input.consents.dataBackedUp === 'yes' ? [] : (['back up'] as const)),
        ),
        ...sets,
        ...plain('start', START),
      ].map(ticked);
  return {
    ...{ steps, opens },
    next: steps.find(({ tick }) => !tick),
    done: steps.filter(({ tick }) => tick).length,
    pulled: modulesGone(found, state.placement).map((module) => ({ module, to: pulledTo })),
  };
}

const isPull = ({ task }: Pick<SheetStep, 'task'>) => task.type === 'pull';

/** What ticking a step does to the machine. */
export function effectOf({ task }: SheetStep): Tick['effect'] {
  if (task.type === 'pull') return { type: 'slot', slotId: task.slotId, module: null };
  if (task.type === 'seat') return { type: 'slot', slotId: task.slotId, module: task.module };
  return task.type === 'set' ? { type: 'setting', setting: task.setting } : undefined;
}
