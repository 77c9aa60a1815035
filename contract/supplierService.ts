import { z } from 'zod';

// What the bench asks of a supplier's own service, and what it expects back. A supplier, or whoever
// stands between, answers these two; `openApi` of the simulated one describes them.

const article = z.string().min(1).max(80);

/** GET /articles?article=…&article=…: what they cost and whether they can be had. */
export const articlesAnswer = z.object({
  currency: z.string().length(3),
  articles: z
    .array(
      z.object({
        article,
        /** Of a pack, without tax, minor units. */
        cost: z.number().int().min(0).max(99_999_999),
        /** Packs to be had; null = not said. */
        stock: z.number().int().min(0).max(100_000).nullable(),
        leadDays: z.number().int().min(0).max(365).nullable(),
      }),
    )
    .max(500),
});

/** POST /orders, with an Idempotency-Key: the same one sent again is the same order. */
export const orderRequest = z.object({
  /** The shop's own number of it. */
  reference: z.string().min(1).max(40),
  lines: z
    .array(z.object({ article, packs: z.number().int().min(1).max(1000) }))
    .min(1)
    .max(200),
});
export const orderAnswer = z.object({
  /** The supplier's number of it. */
  number: z.string().min(1).max(60),
  lines: z.array(
    z.object({
      article,
      state: z.enum(['confirmed', 'sold out', 'unknown article']),
      leadDays: z.number().int().min(0).max(365).nullable(),
    }),
  ),
});

/** Articles asked for at once. */
export const ARTICLES_AT_ONCE = 100;

export type ArticlesAnswer = z.infer<typeof articlesAnswer>;
export type OrderRequest = z.infer<typeof orderRequest>;
export type OrderAnswer = z.infer<typeof orderAnswer>;
