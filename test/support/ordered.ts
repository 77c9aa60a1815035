import { queryForJob } from '#contract/jobPlan';
import type { OrderLine, Quote, Shop } from '#contract/quotes';
import type { Job, ModuleRecord } from '#contract/records';
import { runToEnd } from '#core/planning';
import type { Plan } from '#core/planning';
import type { Api } from './api.ts';
import { labelled } from './builders.ts';

/** What desktops of the tests take, one like the one they came with. */
export const EIGHT = '8GB 1Rx8 PC4-2400T-UA1-11';

/** A module of the catalogue as a supplier sells it. */
export const offer = (
  api: Api,
  more: Partial<ModuleRecord> & Pick<ModuleRecord, 'supplier' | 'article'>,
) =>
  api.ok<ModuleRecord>('POST', '/modules', {
    ...{ label: EIGHT, module: labelled(EIGHT), price: 3000, cost: 2000, leadDays: 2, ...more },
  });

/** A job with a quote for a plan that buys of an offer; its customer has not answered yet. */
export async function quotedJob(
  api: Api,
  offerId: string,
): Promise<{ job: Job; plan: Plan; quote: Quote }> {
  const bare = await api.jobWithFound();
  const job = await api.ok('PATCH', `/jobs/${bare.id}`, { version: bare.version, need: 12 });
  const { terms } = await api.ok<Shop>('GET', '/shop');
  const modules = await api.ok<ModuleRecord[]>('GET', '/modules');
  const only = modules.filter(({ id }) => id === offerId);
  const { plans } = runToEnd(queryForJob(job, only, [], terms));
  const plan = plans.find(({ purchases }) => purchases.length > 0);
  if (!plan) throw new Error('expected a plan that buys');
  const [quote] = await api.ok<Quote[]>('POST', `/jobs/${job.id}/quotes`, {
    ...{ units: plan.units, setting: plan.setting, expected: plan.cost.net },
  });
  if (!quote) throw new Error('expected a quote');
  return { job, plan, quote };
}

/** What the customer says to a quote. */
export const ANSWER = { what: 'accepted', by: 'Harbour master', note: '' };

/** A job whose customer said yes to a plan that buys of an offer. */
export async function acceptedJob(
  api: Api,
  offerId: string,
): Promise<{ job: Job; plan: Plan; quote: Quote }> {
  const quoted = await quotedJob(api, offerId);
  const address = `/jobs/${quoted.job.id}`;
  await api.ok('POST', `${address}/quotes/${quoted.quote.id}/answer`, ANSWER);
  return { ...quoted, job: await api.ok('GET', address) };
}

/** What is to be ordered of a supplier. */
export const toOrder = async (api: Api, supplier: string): Promise<OrderLine[]> =>
  (await api.ok<OrderLine[]>('GET', '/orders')).filter((line) => line.supplier === supplier);

export const wanted = (lines: readonly OrderLine[]) =>
  lines.map(({ quoteId, at }) => ({ quoteId, at }));
