import { z } from 'zod';
import { DRAWER_STATES } from '#core/planning';
import { WAYS_OUT, drawerRecord, goneRecord, place } from './drawer.ts';
import { byId, created, route } from './route.ts';
import { id, moment, note, version, words } from './text.ts';

/** What a page of the stock is asked by. */
export const stockQuery = z.strictObject({
  search: words,
  place: z.string().max(60).optional(),
  state: z.enum([...DRAWER_STATES, 'free', 'reserved']).optional(),
  after: z.string().max(500).optional().describe('Of the page before, its `next`'),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});
const pageOf = <T extends z.ZodType>(record: T) =>
  z.strictObject({
    pieces: z.array(record),
    /** Ask for what follows with it; null = that was all. */
    next: z.string().nullable(),
    total: z.number().int(),
  });
export const stockPage = pageOf(drawerRecord);
export const gonePage = pageOf(goneRecord);

/** What modules in stock are worth, minor units; see `valueOf` of the core. */
export const stockValue = z.strictObject({
  pieces: z.number().int(),
  cost: z.number().int(),
  withoutCost: z.number().int(),
  price: z.number().int(),
  withoutPrice: z.number().int(),
  unsound: z.number().int(),
  reserved: z.number().int(),
  /** Places in use, by name. */
  places: z.array(z.strictObject({ place: z.string(), pieces: z.number().int() })),
});

const code = z.string().min(1).max(300);
const counted = z.strictObject({ id, label: z.string(), place: z.string() });

/** What a count found against the records; see `countDifferences` of the core. */
export const countResult = z.strictObject({
  expected: z.number().int(),
  found: z.number().int(),
  missing: z.array(counted),
  elsewhere: z.array(counted),
  back: z.array(counted.extend({ gone: z.enum(WAYS_OUT) })),
  strange: z.array(code),
  twice: z.number().int(),
});
export const countInput = z.strictObject({
  /** null = everything. */
  place: place.nullable(),
  scanned: z.array(code).max(20_000, 'Count in parts: 20,000 codes at most.'),
});
/** A count taken over: what is done about each difference. */
export const countTaken = countInput.extend({
  /** Missing ones that are written off; the others become suspect. */
  writeOff: z.array(id).max(20_000).default([]),
});
export const countRecord = z.strictObject({
  ...{ id, at: moment, by: z.string(), place: z.string().nullable() },
  ...{ expected: z.number().int(), found: z.number().int() },
  ...{ missing: z.number().int(), moved: z.number().int(), back: z.number().int() },
});

/** Keeping stock, beyond what plans need of it. */
export const stockKeepingRoutes = {
  listStock: route('get', '/stock', 'staff', 'Modules in stock, page by page', stockPage, {
    query: stockQuery,
  }),
  readPiece: route('get', '/drawer/{id}', 'staff', 'One module in stock', drawerRecord, {
    params: byId,
  }),
  readStockValue: route('get', '/stock/value', 'staff', 'What the stock is worth', stockValue),
  listGone: route('get', '/stock/gone', 'staff', 'Modules that left, the latest first', gonePage, {
    query: stockQuery.pick({ search: true, after: true, limit: true }),
  }),
  letGo: route('post', '/drawer/{id}/gone', 'staff', 'A module leaves stock', goneRecord, {
    params: byId,
    body: z.strictObject({ how: z.enum(WAYS_OUT), note: note('the note', 300), version }),
  }),
  takeBack: route('post', '/drawer/{id}/back', 'staff', 'It is here after all', drawerRecord, {
    params: byId,
    body: z.strictObject({ version }),
  }),
  holdPiece: route(
    'put',
    '/drawer/{id}/reservation',
    'staff',
    'Hold a module for an open job, or let it go',
    drawerRecord,
    {
      params: byId,
      body: z.strictObject({
        jobNumber: z
          .number()
          .int()
          .min(1)
          .max(2_000_000_000)
          .nullable()
          .describe('null lets it go'),
        version,
      }),
    },
  ),
  compareCount: route(
    'post',
    '/stock/count',
    'staff',
    'What was scanned against what should be there',
    countResult,
    { body: countInput, stores: false },
  ),
  takeCount: route('post', '/stock/counts', 'staff', 'Take a count over', countRecord, {
    body: countTaken,
    ...created,
  }),
  listCounts: route(
    'get',
    '/stock/counts',
    'staff',
    'Counts taken, the latest first',
    z.array(countRecord),
  ),
} as const;

export type StockPage = z.infer<typeof stockPage>;
export type GonePage = z.infer<typeof gonePage>;
export type StockValueAnswer = z.infer<typeof stockValue>;
export type StockQuery = z.infer<typeof stockQuery>;
export type CountAnswer = z.infer<typeof countResult>;
export type CountInput = z.infer<typeof countInput>;
export type CountTaken = z.infer<typeof countTaken>;
export type CountRecord = z.infer<typeof countRecord>;
