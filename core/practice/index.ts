export { act } from './act.ts';
export type { Outcome } from './act.ts';
export { LONGEST_WAIT, minutesOf } from './actions.ts';
export type { Action } from './actions.ts';
export { QUESTIONS, RULES } from './exercise.ts';
export type {
  Exercise,
  FirmwareClaims,
  Goal,
  HiddenFault,
  PartOffer,
  Piece,
  PieceId,
  Question,
  RuleId,
} from './exercise.ts';
export { goalLines, isSolved } from './goal.ts';
export type { GoalLine } from './goal.ts';
export { bandwidthOf, measuredOn } from './measuring.ts';
export { playPar } from './policy.ts';
export type { Par } from './policy.ts';
export { errorsOf, found, statusOf, usableOf } from './running.ts';
export type { Status } from './running.ts';
export { firmwareScreen, firmwareTable, screenText } from './screens.ts';
export { CANNOT } from './seen.ts';
export type { Cannot, FirmwareScreen, LookedAt, ScreenRow, Seen, TableRow } from './seen.ts';
export { Telling } from './telling.ts';
export {
  UNSAFE,
  beginWorld,
  hasPack,
  keyOf,
  pieceIn,
  piecesAt,
  sitting,
  stickerOf,
} from './world.ts';
export type { Place, Unsafe, World } from './world.ts';
export { bareExercise, oneChannelFaults, runningWorld } from './bare.ts';
export { bitsTold, debriefOf } from './debrief.ts';
export type { Debrief, Turn } from './debrief.ts';
