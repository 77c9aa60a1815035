export { GRADES, compareGrades, matchGrade, partKey, ratingKey, specKey } from './grade.ts';
export type { Grade, Graded } from './grade.ts';
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
