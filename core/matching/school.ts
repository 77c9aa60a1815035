/** Schools of thought on mixing; the shop picks one per job. */
export const SCHOOLS = ['strict', 'balanced', 'lenient'] as const;
/** See {@link SCHOOLS}. */
export type School = (typeof SCHOOLS)[number];

/** What a school says: the worst of its rows counts. */
export const JUDGEMENTS = ['accept', 'caution', 'refuse'] as const;
/** See {@link JUDGEMENTS}. */
export type Judgement = (typeof JUDGEMENTS)[number];
