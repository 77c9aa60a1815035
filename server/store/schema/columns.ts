import { text, timestamp } from 'drizzle-orm/pg-core';
import { jobs } from './jobs.ts';

/** A moment, with its zone. */
export const moment = () => timestamp({ withTimezone: true });

/** The job a row belongs to. */
export const ofJob = () =>
  text()
    .notNull()
    .references(() => jobs.id);
