import { z } from 'zod';
import { CHANGE_SUBJECTS } from '#core/explaining';
import type { ChangeSubject } from '#core/explaining';
import { byId, route } from './route.ts';
import { id, moment } from './text.ts';

const SUBJECTS = Object.keys(CHANGE_SUBJECTS) as [ChangeSubject, ...ChangeSubject[]];

/** One field of something that was changed. Entries are never changed or removed. */
export const auditEntry = z.strictObject({
  id: z.number().int(),
  at: moment,
  /** Whose session it was; null = the bench itself, or the command line. */
  who: z.string().nullable(),
  job: z.strictObject({ id, number: z.number().int() }).nullable(),
  subject: z.enum(SUBJECTS),
  rowId: z.string(),
  what: z.string(),
  field: z.string(),
  before: z.unknown(),
  after: z.unknown(),
});
export const auditPage = z.strictObject({
  entries: z.array(auditEntry),
  /** Ask for what is older with it; null = that was all. */
  next: z.number().int().nullable(),
});
export const auditQuery = z.strictObject({
  subject: z.enum(SUBJECTS).optional(),
  who: z.string().max(60).optional(),
  before: z.coerce.number().int().min(1).optional().describe('Of the page before, its `next`'),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});

/** Who changed what, from what to what. */
export const auditRoutes = {
  listChanges: route('get', '/changes', 'owner', 'Who changed what, the latest first', auditPage, {
    query: auditQuery,
  }),
  listJobChanges: route(
    'get',
    '/jobs/{id}/changes',
    'staff',
    'Who changed what of a job, the latest first',
    auditPage,
    { params: byId, query: auditQuery },
  ),
} as const;

export type AuditEntry = z.infer<typeof auditEntry>;
export type AuditPage = z.infer<typeof auditPage>;
export type AuditQuery = z.infer<typeof auditQuery>;
