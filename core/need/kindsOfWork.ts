import type { Machine } from '../machine/index.ts';
import { proposeActivities } from './proposed.ts';
import type { NeedInput } from './workingSet.ts';

/** What feels faster memory in each usual activity, as ids of the planning room's activity classes. */
const FELT: Readonly<Record<string, readonly string[]>> = {
  'Office and mail': ['office'],
  'Browser, a dozen tabs': ['office'],
  'Browser, fifty tabs': ['office'],
  'Video calls': ['office'],
  'Photo editing': ['rendering'],
  'Scanning large formats': ['rendering'],
  'Video editing': ['rendering', 'integrated'],
  'Music with sample libraries': ['rendering'],
  'Large drawings and assemblies': ['rendering', 'integrated'],
  'Mapping from aerial pictures': ['rendering', 'compression'],
  'Stacking microscope pictures': ['rendering'],
  'Numeric models': ['rendering', 'compression'],
  'A virtual machine': ['office', 'compression'],
  Games: ['games', 'games-low', 'graphics', 'integrated'],
  'Logging and control': ['office'],
};

/**
 * Which kinds of work (ids of the planning room's activity classes) matter to this customer: those
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
