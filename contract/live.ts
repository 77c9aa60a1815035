import { z } from 'zod';
import { general, route, storesNothing } from './route.ts';
import { id } from './text.ts';

const tab = z.string().min(1).max(40);

/** Something was stored: of which job, or of which table where it is of none. */
export const toldChange = z.strictObject({
  job: id.nullable(),
  table: z.string(),
  /** The tab it came from, which knows already. */
  tab: z.string().nullable(),
});

/** Where somebody is, as other screens show it. */
export const hereInput = z.strictObject({
  tab,
  /** null = not at a job. */
  jobId: id.nullable(),
  step: z.string().max(40),
  /** What is on the board there and not saved, in words. */
  draft: z.string().max(300).nullable(),
});
export const here = hereInput.extend({ name: z.string() });

/** What the stream of `/live` sends, by the names of its events. */
export const LIVE_EVENTS = ['change', 'here', 'missed', 'beat'] as const;

/** Telling other screens where one is; what was stored they hear by themselves. */
export const liveRoutes = {
  sayHere: route(
    'post',
    '/live/here',
    'staff',
    'Say where one is and what is not saved there, for other screens',
    z.strictObject({ ok: z.literal(true) }),
    { body: hereInput, ...storesNothing, ...general },
  ),
} as const;

export type ToldChange = z.infer<typeof toldChange>;
export type Here = z.infer<typeof here>;
export type HereInput = z.infer<typeof hereInput>;
