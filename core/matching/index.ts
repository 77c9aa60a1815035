export {
  GRADES,
  compareGrades,
  matchGrade,
  partKey,
  ratingOf,
  ratingsAgree,
  specOf,
  specsAgree,
} from './grade.ts';
export type { Grade, Graded, Rating, Spec } from './grade.ts';
export { JUDGEMENTS, SCHOOLS } from './school.ts';
export type { Judgement, School } from './school.ts';
export { judgeMatch } from './schools.ts';
export type {
  JobStance,
  MatchReport,
  SchoolQuestion,
  SchoolRow,
  SchoolVerdict,
} from './schools.ts';
