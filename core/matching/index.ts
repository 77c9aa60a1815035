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
export { JUDGEMENTS, SCHOOLS, judgeMatch } from './schools.ts';
export type {
  JobStance,
  Judgement,
  MatchReport,
  School,
  SchoolQuestion,
  SchoolRow,
  SchoolVerdict,
} from './schools.ts';
