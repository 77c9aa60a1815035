import { z } from 'zod';
import { LIST_FIELDS, LIST_ROW_LIMIT } from '#core/stock';
import { wholeNumber } from '#core/units';
import type { ListField } from '#core/stock';
import { memoryModule } from './memory.ts';
import { minor, price } from './planning.ts';
import { orderLine } from './quotes.ts';
import { byId, created, route, storesNothing } from './route.ts';
import { place } from './drawer.ts';
import { id, line, moment, note, version } from './text.ts';

const heading = z.string().trim().max(120);
/** Heading of the column each field of a price list stands in. */
export const listColumns = z.strictObject(
  Object.fromEntries(LIST_FIELDS.map((field) => [field, heading.optional()])) as Record<
    ListField,
    z.ZodOptional<typeof heading>
  >,
);

export const supplierInput = z.strictObject({
  name: line('the name', 80),
  contact: note('the contact', 300),
  /** Where its service answers; empty = it has none. */
  serviceUrl: z
    .union([
      z.literal(''),
      z
        .url({ protocol: /^https?$/, error: 'An address such as https://orders.example/api.' })
        .max(300),
    ])
    .default(''),
});
export const supplierRecord = supplierInput.extend({
  ...{ id, version },
  /** The key its service wants is kept; it is never shown again. */
  hasKey: z.boolean(),
  /** As its last price list had them. */
  columns: listColumns.nullable(),
  /** Offers in the catalogue. */
  offers: z.number().int(),
  /** When any of their prices was last heard; null = never. */
  pricedAt: moment.nullable(),
});
/** Absent keeps the key there is, empty forgets it. */
const serviceKey = z.string().trim().max(300).optional();

const listed = z.strictObject({
  article: line('the article number', 80),
  cost: price,
  stock: z.number().int().min(0).max(100_000).nullable().optional(),
  leadDays: z.number().int().min(0).max(365).nullable().optional(),
});
const ROWS = `One list has ${wholeNumber(LIST_ROW_LIMIT)} rows at most.`;
export const priceListInput = z.strictObject({
  columns: listColumns,
  changes: z.array(listed.extend({ id })).max(LIST_ROW_LIMIT, ROWS),
  additions: z
    .array(
      listed.extend({
        label: line('the label', 400),
        module: memoryModule,
        units: z.number().int().min(1).max(16),
      }),
    )
    .max(5000, 'Add 5,000 new modules at once at most.'),
});
const priced = z.strictObject({
  changed: z.number().int(),
  added: z.number().int(),
  /** Prices that were made of costs by the shop's margin. */
  repriced: z.number().int(),
});

/** What a supplier's service answered when it was asked. */
export const askedAnswer = z.strictObject({
  asked: z.number().int(),
  answered: z.number().int(),
  changed: z.number().int(),
  soldOut: z.number().int(),
  /** 1 = at once. */
  tries: z.number().int(),
  at: moment,
});

/** A part ordered, on its way or here. */
const placedLine = z.strictObject({
  id,
  job: z.strictObject({ jobId: id, number: z.number().int(), customerName: z.string() }).nullable(),
  article: z.string(),
  text: z.string(),
  units: z.number().int(),
  packs: z.number().int(),
  received: z.number().int(),
  /** Of a pack, without tax; null = not known until the bill is here. */
  cost: minor.nullable(),
  isCancelled: z.boolean(),
});
export const placedOrder = z.strictObject({
  id,
  number: z.number().int(),
  supplier: z.string(),
  placedAt: moment,
  by: z.string(),
  /** The supplier's own number of it; empty where nobody noted it. */
  reference: z.string(),
  /** Sent by the supplier's service; otherwise by hand. */
  isSent: z.boolean(),
  /** The day the last of it should be here; null = not known. */
  expectedOn: z.iso.date().nullable(),
  lines: z.array(placedLine),
});

/** A line of the order list, by the quote it comes from. */
const wantedLine = orderLine.pick({ quoteId: true, at: true });

export const placeOrderInput = z.strictObject({
  /** Made by the client: the same order sent twice stands once. */
  id,
  supplier: z.string().max(80),
  lines: z.array(wantedLine).min(1, 'Choose a line or more.').max(200),
  reference: note('the number', 60).default(''),
  /** By the supplier's service; otherwise it was ordered by hand. */
  send: z.boolean(),
});
export const placedAnswer = z.strictObject({
  /** null = the supplier took none of it. */
  order: placedOrder.nullable(),
  refused: z.array(z.strictObject({ article: z.string(), why: z.string() })),
});
export const receiptInput = z.strictObject({
  lines: z
    .array(
      z.strictObject({
        lineId: id,
        packs: z.number().int().min(1, 'A pack or more.').max(1000),
        /** As billed; absent keeps what was ordered at. */
        cost: price.optional(),
      }),
    )
    .min(1, 'Say what came.')
    .max(200),
  place,
});
export const receipt = z.strictObject({
  order: placedOrder,
  /** Modules that are in stock now. */
  pieces: z.array(id),
});

/** Buying: suppliers, their prices, what is ordered and what came. */
export const supplierRoutes = {
  listSuppliers: route('get', '/suppliers', 'staff', 'Suppliers by name', z.array(supplierRecord)),
  addSupplier: route('post', '/suppliers', 'prices', 'Add a supplier', z.array(supplierRecord), {
    body: supplierInput.extend({ serviceKey }),
    ...created,
  }),
  changeSupplier: route(
    'put',
    '/suppliers/{id}',
    'prices',
    'Change a supplier; its offers follow a new name',
    z.array(supplierRecord),
    { params: byId, body: supplierInput.extend({ serviceKey, version }) },
  ),
  takePriceList: route(
    'post',
    '/suppliers/{id}/prices',
    'prices',
    'Take a supplier’s price list over, and remember its columns',
    priced,
    { params: byId, body: priceListInput },
  ),
  askSupplier: route(
    'post',
    '/suppliers/{id}/ask',
    'prices',
    'Ask a supplier’s service for prices and stock',
    askedAnswer,
    // It keeps by itself what it hears: nobody’s save waits for a stranger’s answer.
    { params: byId, body: z.strictObject({}), ...storesNothing },
  ),
  placeOrder: route('post', '/orders', 'prices', 'Order parts of accepted quotes', placedAnswer, {
    body: placeOrderInput,
    ...created,
    ...storesNothing,
  }),
  listPlacedOrders: route(
    'get',
    '/orders/placed',
    'staff',
    'Orders on their way, and the latest that came',
    z.array(placedOrder),
  ),
  receiveOrder: route(
    'post',
    '/orders/{id}/receipts',
    'staff',
    'What came of an order, into stock',
    receipt,
    { params: byId, body: receiptInput, ...created },
  ),
  cancelOrderLines: route(
    'post',
    '/orders/{id}/cancelled',
    'prices',
    'Cancel what has not come; its parts are to be ordered again',
    placedOrder,
    { params: byId, body: z.strictObject({ lineIds: z.array(id).min(1).max(200) }) },
  ),
} as const;

export type SupplierRecord = z.infer<typeof supplierRecord>;
export type SupplierInput = z.input<typeof supplierInput>;
export type PriceListInput = z.infer<typeof priceListInput>;
export type AskedAnswer = z.infer<typeof askedAnswer>;
export type PlacedOrder = z.infer<typeof placedOrder>;
export type PlacedLine = PlacedOrder['lines'][number];
export type PlaceOrderInput = z.infer<typeof placeOrderInput>;
export type PlacedAnswer = z.infer<typeof placedAnswer>;
export type ReceiptInput = z.infer<typeof receiptInput>;
export type Receipt = z.infer<typeof receipt>;
