import { z } from 'zod';
import { DRAWER_STATES } from '#core/planning';
import { memoryModule } from './memory.ts';
import { price } from './planning.ts';
import { id, line, moment, note, serial, version } from './text.ts';

/** Where something lies: a drawer, a shelf; empty = the drawer. */
export const place = note('the place', 60);

/** A module in stock, pulled or bought. */
export const drawerInput = z.strictObject({
  label: line('the label', 400),
  module: memoryModule,
  state: z.enum(DRAWER_STATES),
  price,
  /** Where it came from, in words. */
  origin: note('where it came from', 200),
  place: place.default(''),
  serial: serial.default(''),
  /** What was paid for it, without tax; null = nobody noted it. */
  cost: price.nullable().default(null),
  /** Bought new and never fitted. */
  isNew: z.boolean().default(false),
});

const ofJob = z.strictObject({ jobId: id, number: z.number().int() }).nullable();

export const drawerRecord = drawerInput.extend({
  ...{ id, version, createdAt: moment },
  /** Who sold it to the shop; empty where it was pulled. */
  supplier: z.string(),
  /** The job it was pulled in. */
  pulledIn: ofJob,
  /** The job it is held for. */
  reservedFor: ofJob,
});

/** How a module leaves stock. */
export const WAYS_OUT = ['sold', 'returned', 'written off'] as const;
export type WayOut = (typeof WAYS_OUT)[number];

/** A module that left stock; its row stays. */
export const goneRecord = drawerRecord.extend({
  gone: z.strictObject({ how: z.enum(WAYS_OUT), at: moment, note: z.string(), job: ofJob }),
});

export type DrawerRecord = z.infer<typeof drawerRecord>;
export type DrawerInput = z.infer<typeof drawerInput>;
export type GoneRecord = z.infer<typeof goneRecord>;
