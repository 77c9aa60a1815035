import type { Grade, SchoolRow } from '../matching/index.ts';

const BECAUSE: Readonly<Record<SchoolRow['because'], string>> = {
  'one kit': 'all come out of one sealed pack',
  'one part, all listed': 'one part, and the maker lists every module',
  mixed: 'modules from different packs or parts: replace rather than add',
  'same spec in pairs': 'each pair has the same spec',
  'spec differs in a pair': 'modules that work as a pair differ in spec',
  'same spec': 'all have the same spec',
  'spec differs': 'spec differs; all run at the lowest common point',
  even: 'every populated channel holds the same',
  uneven: 'the channels hold different amounts',
  'unlike in one channel': 'modules of different sizes share one channel',
  'need fits the paired zone': 'the need with its margin fits what runs side by side',
  'need exceeds the paired zone': 'the need with its margin is larger than what runs side by side',
  'need not stated': 'whether the need fits is open: state the need',
  'capacity first': 'the job puts capacity before even channels',
  'one pack': 'no second sealed pack',
  'all listed': 'the maker lists every module',
  'same part': 'several packs of one part',
  'packs differ': 'packs of different parts',
  'not listed': 'a module is not on the maker’s list',
  'no list known': 'no list from the maker is known',
  'list ignored': 'this school does not ask',
  'nothing to list': 'no module sits in a slot',
  'within limits': 'no stated limit is passed',
  'memory test passed': 'beyond a stated limit, and a memory test has passed',
  'beyond a limit': 'the profile goes beyond a stated limit',
  'no better placement': 'no placement of these modules would be wider',
  'a better placement exists': 'other slots would use a second channel',
};

/** Why a school judges a row as it does. */
export function explainSchoolRow({ because }: SchoolRow): string {
  return BECAUSE[because];
}

const GRADE_WORDS: Readonly<Record<Grade, string>> = {
  'one kit': 'from one sealed pack, tested together',
  'same part': 'the same part and revision, bought apart',
  'same spec': 'different parts of the same spec',
  'same size': 'the same size, but spec differs or is not known',
  uneven: 'of different sizes',
  'no go': 'not able to run together',
};

/** What a match grade means. */
export function explainGrade(grade: Grade): string {
  return GRADE_WORDS[grade];
}
