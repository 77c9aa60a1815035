import { withVerified } from '#core/planning';
import type { DrawerModule, Offer, PlanQuery } from '#core/planning';
import type { ShopTerms } from '#core/quoting';
import { withListed, withoutSlots } from '#core/machine';
import type { Placement } from '#core/machine';
import { sameModule } from '#core/memory';
import { needWithMargin } from '#core/need';
import { jobMachine, snapshotOf } from './jobProof.ts';
import type { DrawerRecord } from './drawer.ts';
import type { Job, ModuleRecord } from './records.ts';

/** The shop's catalogue as offers for a machine; entries without a price are known but not sold. */
export function offersFor(modules: readonly ModuleRecord[], machineId: string): Offer[] {
  return modules.map(({ id, module, units, price, stock, verifiedOn }) => ({
    ...{ id, module, units },
    price: price ?? 'unknown',
    stock: stock ?? 'unknown',
    verified: verifiedOn.includes(machineId),
  }));
}

/** Drawer modules that are free, or held for this very job. */
export function drawerFor(drawer: readonly DrawerRecord[], jobId: string): DrawerModule[] {
  return drawer
    .filter(({ reservedFor }) => reservedFor === null || reservedFor.jobId === jobId)
    .map(({ id, module, state, price }) => ({ id, module, state, price }));
}

/** What was found and may stay: neither sent back as faulty nor in a dead slot. */
function soundModules(job: Job): Placement {
  const faulty = job.returns.map(({ module }) => module);
  return Object.fromEntries(
    Object.entries(snapshotOf(job, 'as-found')?.placement ?? {}).filter(([slotId, module]) => {
      if (job.deadSlots.includes(slotId)) return false;
      const at = faulty.findIndex((one) => sameModule(one, module));
      if (at >= 0) faulty.splice(at, 1);
      return at < 0;
    }),
  );
}

/**
 * The search a job asks for: its machine, with what the shop has proven or verified in it counted as
 * listed, what was found, its terms, and what the shop has.
 */
export function queryForJob(
  job: Job,
  modules: readonly ModuleRecord[],
  drawer: readonly DrawerRecord[],
  terms: ShopTerms,
): PlanQuery {
  const offers = offersFor(modules, job.machine.id);
  const listed = withListed(withoutSlots(jobMachine(job), job.deadSlots), job.machine.provenParts);
  const machine = withVerified(listed, offers);
  const fitted = soundModules(job);
  const credit = Object.fromEntries(
    Object.entries(fitted).map(([slotId, module]) => [
      slotId,
      Math.round((module?.capacity ?? 0) * terms.creditPerGb),
    ]),
  );
  return {
    ...{ machine, fitted, credit },
    need: needWithMargin(job),
    budget: job.budget ?? undefined,
    school: job.school,
    capacityFirst: job.capacityFirst,
    memoryTestPassed: job.memoryTestPassed,
    settings: ['standard', 'profile'],
    offers,
    drawer: drawerFor(drawer, job.id),
    labour: terms.labour[machine.kind],
  };
}
