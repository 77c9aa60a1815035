import { z } from 'zod';

/** RFC 9457 problem details, with what would mend it and, for conflicts, both sides. */
export const problem = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  /** What would mend it. */
  mend: z.string(),
  /** Each field at fault, as a path such as `machine.slots.2.printedName`. */
  fields: z.array(z.strictObject({ path: z.string(), message: z.string() })).optional(),
  /** For a stale save: what was sent, and what stands now. */
  yours: z.unknown().optional(),
  theirs: z.unknown().optional(),
});
export type Problem = z.infer<typeof problem>;
