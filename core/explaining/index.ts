export {
  CANNOT_WORDS,
  FINDINGS,
  QUESTION_WORDS,
  RULE_WORDS,
  actionText,
  coins,
  debriefSentence,
  explainRule,
  explainUnsafe,
  findingText,
  goalText,
} from './practice.ts';
export { drawnText, machineStatusText, seenText } from './practiceSeen.ts';
export { CHANGE_SUBJECTS, explainChange } from './changes.ts';
export type { ChangeSubject, NotedChange } from './changes.ts';
export { explainCoverFault } from './covers.ts';
export { clockText, longDay, momentText, monthText, nearDay, shortDay } from './dates.ts';
export { explainBlocker } from './blockers.ts';
export { explainFlag } from './flags.ts';
export { explainFinding } from './labels.ts';
export {
  explainPeak,
  explainPoint,
  heldBackBy,
  explainRate,
  explainUsable,
  explainWidth,
  pointText,
  rateText,
  usableText,
  widthText,
} from './points.ts';
export { explainMachineFault } from './machines.ts';
export { PROBE_MARK_WORDS, explainCarryFault, probeText } from './probes.ts';
export {
  PROMISE_BASES,
  PROMISE_WORDS,
  explainChannels,
  explainGain,
  explainProofCaution,
  gainText,
  headlineText,
  multiplicityText,
  toSettleText,
} from './proofs.ts';
export { explainRunFault, explainRunsTableFault, explainShownRate } from './runs.ts';
export {
  RETURNS_BY_WORDS,
  STAND_WORDS,
  STRETCH_WORDS,
  hoursText,
  shareText,
  smallText,
  spreadText,
} from './month.ts';
export { explainRung, rungName } from './rungs.ts';
export { LIST_FIELD_WORDS, ageText, explainJump, explainListFault, stockText } from './stock.ts';
export { explainGrade, explainSchoolRow } from './schools.ts';
export { channelsWord, count, figure, gb, list, slotNames, volts } from './words.ts';
export type { Explanation, NameOf } from './words.ts';
export {
  documentKindName,
  explainInventoryFinding,
  inventoryKindName,
  placeText,
} from './inventory.ts';
export { explainAdvice, explainNeedFault, needSentence, workingSetText } from './needs.ts';
export {
  cellNoteText,
  claimFieldName,
  claimText,
  differenceText,
  explainGuess,
  explainQuestion,
  matchText,
  sourceName,
} from './reconciling.ts';
export { explainUnknownTrait } from './machines.ts';
export { explainLimit, limitLine, limitName, limitText, profileAloneText } from './limits.ts';
export { amountField, amountHint, money } from './money.ts';
export {
  basisText,
  explainGainRange,
  explainRatios,
  gainRangeText,
  promiseHeadline,
  promiseText,
  roomText,
} from './promises.ts';
export {
  CHOICE_SHORT,
  explainChoice,
  OBJECTIVE_NAMES,
  advantageText,
  explainBeaten,
  explainEmptyFront,
  explainExclusion,
  explainObjection,
  explainTipping,
  partText,
  planText,
} from './plans.ts';
export { explainCatalogueFault, explainContradiction } from './catalogue.ts';
export { RISK_WORDS, SAFETY_FIRST, checkHow, checkText, outcomeText } from './checks.ts';
export {
  SYMPTOM_WORDS,
  causeText,
  explainAction,
  explainCause,
  explainContradictoryChecks,
  explainErrorTableFault,
  explainNarrowing,
  rulesOutText,
  percent,
  ruledOutText,
} from './diagnosing.ts';
export {
  CAUTION_WORDS,
  PHASE_WORDS,
  driverText,
  explainLength,
  lengthText,
  moduleText,
  taskWords,
  toolText,
} from './fitting.ts';
export { READING_WORDS, explainLikely, readingText, startText } from './firstStart.ts';
export type { TaskWords } from './fitting.ts';
export {
  STUTTER_WORDS,
  explainFrameFault,
  explainFrameGain,
  frameCautions,
  frameReadingText,
} from './frames.ts';
export { plainVerdict, reportProof, reportRows, reportStory, timingsText } from './reports.ts';
export type { ReportRow } from './reports.ts';
export {
  explainRefit,
  ledgerGainText,
  ledgerModeText,
  ledgerModules,
  ledgerStanding,
  refitBands,
} from './ledger.ts';
export { explainSystemOffer, factText, peakText } from './systems.ts';
export { isQuotedCell, readCell, writtenCell } from './cells.ts';
