import type { Machine } from '../machine/index.ts';
import type { CoverMap, ScrewDrive } from './coverMap.ts';
import type { FitSheet, Task } from './sheet.ts';

/** Something to lay ready. */
export type Tool =
  | { readonly type: 'driver'; readonly drive: ScrewDrive; readonly size: string }
  | { readonly type: 'any driver' }
  | { readonly type: 'pry tool' }
  | { readonly type: 'strap' }
  | { readonly type: 'tray' }
  | { readonly type: 'torque driver' };

/** Tools this cover and this kind of module take; none where nothing is opened. */
export function toolsFor(machine: Machine, map: CoverMap | undefined, opens: boolean): Tool[] {
  if (!opens) return [];
  const { cover } = machine.access;
  const drivers = new Map<string, Tool>();
  for (const part of map?.parts ?? [])
    if (part.kind === 'fastener' && part.drive !== 'thumb') {
      const { drive, size } = part;
      drivers.set(`${drive} ${size}`, { type: 'driver', drive, size });
    }
  const unknown = drivers.size === 0 && !map && cover !== 'clips' && cover !== 'slides';
  const pries =
    map?.parts.some(({ kind }) => kind === 'clip') ?? ['clips', 'screws and clips'].includes(cover);
  return [
    ...drivers.values(),
    ...(unknown ? [{ type: 'any driver' } as const] : []),
    ...(pries ? [{ type: 'pry tool' } as const] : []),
    ...(machine.formFactor === 'compression' ? [{ type: 'torque driver' } as const] : []),
    ...(drivers.size > 0 || unknown ? [{ type: 'tray' } as const] : []),
    { type: 'strap' },
  ];
}

/** Cautions the bench knows. Those that stop the work say at what sign. */
export const CAUTIONS = [
  ...(['swollen pack', 'lithium pack', 'display supply', 'supply', 'mains'] as const),
  ...(['static', 'hot parts', 'sharp edges', 'seal', 'data', 'training', 'profile'] as const),
] as const;
/** See {@link CAUTIONS}. */
export type Caution = (typeof CAUTIONS)[number];

/** Cautions that apply to this machine and this work, gravest first. */
export function cautionsFor(machine: Machine, sheet: FitSheet, setting: string): Caution[] {
  const { kind, access } = machine;
  const hasPack = kind === 'laptop' || !['none', 'unknown'].includes(access.battery);
  const applies: Readonly<Record<Caution, boolean>> = {
    'swollen pack': hasPack,
    'lithium pack': hasPack && sheet.opens,
    'display supply': kind === 'all-in-one' && sheet.opens,
    supply: kind !== 'laptop' && kind !== 'all-in-one' && sheet.opens,
    mains: sheet.opens,
    static: sheet.opens,
    'hot parts': sheet.opens,
    'sharp edges': sheet.opens,
    seal: sheet.opens,
    data: true,
    training: sheet.opens,
    profile: setting === 'profile',
  };
  return CAUTIONS.filter((caution) => applies[caution]);
}

const AT_STEP: Readonly<Partial<Record<string, readonly Caution[]>>> = {
  'ask about the seal': ['seal'],
  'back up': ['data'],
  unplug: ['mains', 'supply', 'display supply'],
  'battery out': ['swollen pack', 'lithium pack'],
  'cool down': ['hot parts'],
  'ground yourself': ['static'],
  'lift the cover': ['sharp edges', 'display supply', 'swollen pack'],
  'battery off': ['swollen pack', 'lithium pack'],
  'first start': ['training'],
};

/** The cautions to say at a step, out of those that apply. */
export function cautionsAt(task: Task, applying: readonly Caution[]): Caution[] {
  const named =
    task.type === 'plain'
      ? (AT_STEP[task.step] ?? [])
      : task.type === 'cover'
        ? task.act.act === 'pry'
          ? (['sharp edges'] as const)
          : []
        : task.type === 'set'
          ? (['profile'] as const)
          : (['static'] as const);
  return named.filter((one) => applying.includes(one));
}
