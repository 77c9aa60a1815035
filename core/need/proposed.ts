import { USUAL_ACTIVITIES } from './activities.ts';
import type { Activity } from './activities.ts';

/**
 * Words by which customers speak of an activity, as beginnings of words: `photo` finds “photos”.
 * A phrase of two must stand together. What names an activity exactly belongs first in no order:
 * every activity whose words are found is proposed.
 */
const CUES: Readonly<Record<string, readonly string[]>> = {
  'Office and mail': [
    ...['office', 'mail', 'email', 'e-mail', 'letter', 'spreadsheet', 'word processing'],
    ...['invoice', 'accounting', 'bookkeeping', 'presentation', 'slides', 'homework', 'paperwork'],
  ],
  'Browser, a dozen tabs': ['browser', 'browsing', 'internet', 'web', 'tab', 'surf', 'online'],
  'Video calls': ['video call', 'call', 'video conference', 'conference', 'meeting', 'webinar'],
  'Photo editing': [
    ...['photo', 'picture editing', 'image editing', 'retouch', 'raw file', 'darkroom'],
  ],
  'Scanning large formats': ['scan', 'digitis', 'digitiz'],
  'Video editing': [
    ...['video edit', 'film edit', 'editing film', 'editing video', 'cutting film', 'movie edit'],
    ...['cutting video', 'edits video', 'edits film', 'footage', 'video cut', 'montage'],
  ],
  'Music with sample libraries': [
    ...['music', 'sample librar', 'audio', 'recording studio', 'composing', 'orchestra'],
  ],
  'Large drawings and assemblies': [
    ...['cad', 'drawing', 'assembl', 'construction plan', 'technical plan', 'floor plan', '3d'],
  ],
  'Mapping from aerial pictures': ['mapping', 'aerial', 'drone', 'orthophoto', 'survey', 'gis'],
  'Stacking microscope pictures': ['microscop', 'stacking'],
  'Numeric models': [
    ...['numeric', 'simulation', 'simulat', 'statistic', 'data analysis', 'model run', 'training'],
  ],
  'A virtual machine': ['virtual machine', 'vm', 'virtualis', 'virtualiz', 'guest system'],
  Games: ['game', 'gaming', 'play'],
  'Compiling programs': [
    'compil',
    'programming',
    'software development',
    'developer',
    'build server',
  ],
  'Packing and unpacking': ['packing', 'unpacking', 'compress', 'zip'],
  'Logging and control': [
    'logging',
    'data logger',
    'machine control',
    'control',
    'measuring station',
  ],
};

const FIFTY = 'Browser, fifty tabs';
/** As many tabs as make a browser the large one of the two. */
const MANY_TABS = 25;
const COUNTS: Readonly<Record<string, number>> = {
  ...{ twenty: 20, thirty: 30, forty: 40, fifty: 50, sixty: 60, seventy: 70, eighty: 80 },
  ...{ ninety: 90, hundred: 100, hundreds: 100, dozens: 48, many: 40, countless: 100 },
};

/** Words of names that say nothing of the work. */
const JOINING = new Set('and the for with from open'.split(' '));

/** Words that take back what follows, up to the next comma: “no games”. */
const DENIALS = /\b(?:no|not|never|without|hardly any|nor)\b[^,;.]*/g;

/** Activities whose beginnings are also those of other words. */
const WHOLE = new Set(['vm', 'cad', 'gis', 'tab', 'web', '3d', 'call', 'control', 'play', 'mail']);
const isSaid = (words: string, cue: string): boolean => {
  const end = WHOLE.has(cue) ? '(?:s|ing|er|ed)?(?![\\p{L}\\p{N}])' : '';
  return new RegExp(`(?<![\\p{L}\\p{N}])${cue.replaceAll('-', '.?')}${end}`, 'u').test(words);
};

/**
 * Usual activities the customer's words speak of, in the order of the list; figures are where ranges
 * start, as if pressed by hand. What is denied (“no games”) is left out, and of browsers one is
 * proposed, by the number of tabs.
 *
 * @param words - what they do with the machine, as typed at the counter
 * @param usual - the shop's list; one it named itself is found by the words of its name
 */
export function proposeActivities(
  words: string,
  usual: readonly Activity[] = USUAL_ACTIVITIES,
): readonly Activity[] {
  const said = words.toLowerCase().replaceAll(DENIALS, ' ').replaceAll(/\s+/g, ' ');
  const found = new Set(
    Object.entries(CUES)
      .filter(([, cues]) => cues.some((cue) => isSaid(said, cue)))
      .map(([name]) => name),
  );
  if (found.has('Browser, a dozen tabs') && tabsIn(said) >= MANY_TABS) {
    found.delete('Browser, a dozen tabs');
    found.add(FIFTY);
  }
  return usual.filter(({ name }) =>
    name in CUES || name === FIFTY ? found.has(name) : isNamed(said, name),
  );
}

/** All words of a name are said, in whatever order; its joining words are nobody's. */
function isNamed(said: string, name: string): boolean {
  const words = name.toLowerCase().match(/[\p{L}\p{N}]{3,}/gu) ?? [];
  const telling = words.filter((word) => !JOINING.has(word));
  return telling.length > 0 && telling.every((word) => isSaid(said, word));
}

/** The number that stands before “tabs”, in digits or as a word; 0 where none does. */
function tabsIn(words: string): number {
  const before =
    /((?:[\p{L}\p{N}]+[\s-]+){1,4})(?:\p{L}+\s)?tabs?(?!\p{L})/u.exec(words)?.[1] ?? '';
  return Math.max(0, ...before.split(/[\s-]+/).map((word) => COUNTS[word] ?? (Number(word) || 0)));
}
