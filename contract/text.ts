import { z } from 'zod';

/**
 * Text as it is kept and looked for: letters with marks in one piece (NFC, UAX #15). Some keyboards and files
 * bring them in two, which look the same and are not.
 */
const text = () => z.string().normalize('NFC');

/** One line of text a person types: a name, a complaint's headline. Any script, emoji included. */
export const line = (what: string, most = 120) =>
  text().trim().min(1, `Enter ${what}.`).max(most, `Shorten ${what}: ${most} characters at most.`);

/** Free text, possibly empty. */
export const note = (what: string, most = 2000) =>
  text().trim().max(most, `Shorten ${what}: ${most} characters at most.`);

/** A module's serial number, as its sticker has it; empty = nobody noted it. */
export const serial = note('the serial number', 60);

/** Words looked for; none find everything. */
export const words = text().max(200).default('');

/** A row's own id. */
export const id = z.string().min(1).max(40);

/** Counts the saves of a row; a save carries the version it started from. */
export const version = z.number().int().min(1).max(2_000_000_000);
/** The same of a row that may not be there yet: 0 for its first save. */
export const versionOrNone = z.number().int().min(0).max(2_000_000_000);

/** A moment, ISO 8601. */
export const moment = z.iso.datetime({ offset: true });
