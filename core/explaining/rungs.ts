import type { Rung } from '../operating-point/index.ts';
import { count, places } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

/** Short name of a rung for the ladder. */
export function rungName({ rule, slotIds, load }: Rung, nameOf: NameOf): string {
  const where = places(slotIds, nameOf);
  switch (rule) {
    case 'slowest-module':
      return slotIds.length > 3 ? `Slowest: ${where}` : `Slowest module: ${where}`;
    case 'profile':
      return `Overclock profile of ${where}`;
    case 'rate-table':
      return load
        ? `Channel ${load.channel}: ${count(load.modules, 'module')}, ${load.ranks} ranks`
        : 'Rate table';
    case 'controller':
      return 'Controller limit';
    case 'firmware-cap':
      return 'Firmware cap';
    case 'profile-ceiling':
      return 'Ceiling for profiles';
    case 'common-cl':
      return 'CAS latency all share';
  }
}

const LIFTS: Readonly<Record<Rung['rule'], { why: string; lift: string }>> = {
  'slowest-module': {
    why: 'All modules run at the standard bin of the slowest.',
    lift: 'Faster modules there',
  },
  profile: {
    why: 'All modules run at the lowest of their profiles.',
    lift: 'A faster profile there',
  },
  'rate-table': {
    why: "More modules or ranks on a channel load its lines; the maker's table lowers the rate.",
    lift: 'Fewer modules or ranks on that channel',
  },
  controller: {
    why: 'The memory controller is built for this rate.',
    lift: 'Only another machine',
  },
  'firmware-cap': {
    why: 'The firmware offers nothing higher.',
    lift: 'A firmware update, if the maker has one',
  },
  'profile-ceiling': { why: 'The board takes profiles up to here.', lift: 'Only another board' },
  'common-cl': {
    why: 'Above this rate no CAS latency is supported by every module.',
    lift: 'Modules whose lists of CLs overlap',
  },
};

/** A rung in words, with what would lift it and where that leads. */
export function explainRung(rung: Rung, nameOf: NameOf): Explanation {
  const { why, lift } = LIFTS[rung.rule];
  const title = `${rungName(rung, nameOf)}: ${typeof rung.limit === 'number' ? `${rung.limit} MT/s` : rung.limit}`;
  if (rung.limit === 'unknown')
    return {
      title,
      why: 'Unknown, so not included in the calculation.',
      mend: "Look in the machine's manual.",
    };
  if (rung.role === 'warning')
    return {
      title,
      why: `${why} The profile goes beyond it.`,
      mend: 'Test memory before handing over.',
    };
  if (rung.role !== 'binds') return { title, why: `${why} It does not bind here.` };
  const isSoldered = rung.rule === 'slowest-module' && rung.slotIds.every((id) => id === null);
  if (isSoldered)
    return { title, why: `${why} This is what sets the rate.`, mend: 'Nothing: it is soldered.' };
  const leads = rung.liftsTo ? ` → ${rung.liftsTo} MT/s` : ', though not that alone';
  return { title, why: `${why} This is what sets the rate.`, mend: `${lift}${leads}.` };
}
