import { z } from 'zod';
import { explainNeedFault } from '#core/explaining';
import { DRIVES, USE_LIMIT, findActivityFaults, findNeedFaults } from '#core/need';
import type { NeedFault } from '#core/need';
import { line } from './text.ts';

const use = { low: z.number().max(USE_LIMIT * 1024), high: z.number().max(USE_LIMIT * 1024) };
const activity = z.strictObject({ name: line('the activity', 60), ...use });

/** Slips of figures, each said at its own. */
const tell = (faults: readonly NeedFault[], context: z.RefinementCtx) => {
  for (const fault of faults) {
    const { title, mend = '' } = explainNeedFault(fault);
    context.addIssue({
      code: 'custom',
      path: fault.path.split('.'),
      message: `${title}. ${mend}`,
    });
  }
};

/** What is known of the work; slips are reported at the figure. */
export const needInput = z
  .strictObject({
    idle: z.strictObject(use),
    activities: z.array(activity).max(40),
    peak: z.strictObject({ gib: z.number(), paging: z.boolean() }).nullable(),
    drive: z.enum(DRIVES),
    graphicsShort: z.boolean(),
  })
  .superRefine((value, context) => tell(findNeedFaults(value), context));

/** Work the shop's customers do, each once. */
export const usualActivities = z
  .array(activity)
  .max(60, 'Keep 60 usual activities or fewer.')
  .superRefine((activities, context) => {
    tell(findActivityFaults(activities), context);
    activities.forEach(({ name }, at) => {
      if (activities.findIndex((one) => one.name === name) < at)
        context.addIssue({
          code: 'custom',
          path: [at, 'name'],
          message: 'That name stands in the list already. Give it another, or remove one.',
        });
    });
  })
  .readonly();
