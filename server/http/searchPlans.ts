import type { z } from 'zod';
import type { planSearchInput, planSearchOutput } from '#contract/planning';
import { explainExclusion } from '#core/explaining';
import { PlanSearch } from '#core/planning';
import type { Plan } from '#core/planning';

/** Steps taken before other requests get their turn. */
const TURN_MS = 20;

/**
 * Searches for plans in turns with other requests, and stops at the deadline with what was found.
 */
export async function searchPlans({
  query,
  deadlineMs,
}: z.infer<typeof planSearchInput>): Promise<z.infer<typeof planSearchOutput>> {
  const end = performance.now() + deadlineMs;
  const search = new PlanSearch({ ...query, budget: query.budget, need: query.need });
  const run = search.run(() => performance.now() > end);
  let turn = performance.now() + TURN_MS;
  for (;;) {
    const step = run.next();
    if (step.done) {
      const { plans, complete, considered, exclusions } = step.value;
      return {
        ...{ complete, considered },
        plans: plans.map(plainPlan),
        excluded: exclusions.map((one) => ({
          id: one.id,
          from: one.from,
          reasons: explainExclusion(one, search.query.machine),
        })),
      };
    }
    if (performance.now() < turn) continue;
    await new Promise((resume) => setImmediate(resume));
    turn = performance.now() + TURN_MS;
  }
}

/** A plan without the modules themselves: they stand in the query. */
function plainPlan({ placement: _placement, units, ...plan }: Plan) {
  return {
    ...plan,
    purchases: [...plan.purchases],
    drawer: [...plan.drawer],
    pulled: [...plan.pulled],
    moved: [...plan.moved],
    units: units.map(({ slotId, source }) => ({ slotId, source })),
  };
}
