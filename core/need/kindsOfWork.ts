import type { Machine } from '../machine/index.ts';
import { proposeActivities } from './proposed.ts';
import type { NeedInput } from './workingSet.ts';

/** What feels faster memory in each usual activity, as ids of the promising room's kinds of work. */
const FELT: Readonly<Record<string, readonly string[]>> = {
  'Office and mail': ['office'],
  'Browser, a dozen tabs': ['office'],
  'Browser, fifty tabs': ['office'],
  'Video calls': ['office'],
  'Photo editing': ['photo'],
  'Scanning large formats': ['photo'],
  'Video editing': ['film'],
  'Music with sample libraries': ['rendering'],
  'Large drawings and assemblies': ['rendering', 'integrated', 'graphics'],
  'Mapping from aerial pictures': ['photo', 'numeric'],
  'Stacking microscope pictures': ['photo', 'numeric'],
  'Numeric models': ['numeric'],
  'A virtual machine': ['virtual'],
  Games: ['games', 'games-low', 'graphics', 'integrated'],
  'Compiling programs': ['compiling'],
  'Packing and unpacking': ['compression'],
  'Logging and control': ['office'],
};

/**
 * Which kinds of work (ids of the promising room's kinds of work) matter to this customer: those
 * that the activities named at the counter feel. An activity in the customer's own words counts by
 * what it sounds like. Built-in graphics matter only where the graphics share the memory, a graphics
 * card only where they do not.
 *
 * @returns nothing where no activity says anything: then all kinds matter
 */
export function kindsOfWork(
  { graphicsCarveOut }: Pick<Machine, 'graphicsCarveOut'>,
  need: Pick<NeedInput, 'activities'> | undefined,
): ReadonlySet<string> | undefined {
  const felt = (need?.activities ?? []).flatMap(({ name }) =>
    proposeActivities(name).flatMap((usual) => FELT[usual.name] ?? []),
  );
  const isShared = graphicsCarveOut.high > 0;
  const kinds = felt.filter((kind) => kind !== (isShared ? 'graphics' : 'integrated'));
  return kinds.length > 0 ? new Set(kinds) : undefined;
}
