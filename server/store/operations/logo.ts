import { eq } from 'drizzle-orm';
import type { Shop } from '#contract/quotes';
import { makePdf } from '../../reports/makePdf.ts';
import type { Database } from '../openStore.ts';
import { pictureFrom } from '../picture.ts';
import { shopLogos } from '../schema/index.ts';
import { readShop } from './drawer.ts';
import { StateError } from './errors.ts';

const SHOP = 'shop';

/** The shop's sign as documents take it: a data address; `undefined` where there is none. */
export async function readLogo(
  db: Database,
): Promise<{ type: string; content: Uint8Array; address: string } | undefined> {
  const [row] = await db.select().from(shopLogos).where(eq(shopLogos.id, SHOP));
  if (!row) return undefined;
  const { type, content } = row;
  return { type, content, address: dataAddress(type, content) };
}

const dataAddress = (type: string, content: Uint8Array) =>
  `data:${type};base64,${Buffer.from(content).toString('base64')}`;

/** Saves the shop's sign. Throws StateError for a picture that cannot be printed. */
export async function saveLogo(db: Database, base64: string): Promise<Shop> {
  const { type, content } = pictureFrom(base64, 'base64');
  const refused = new StateError(
    'This picture cannot be printed.',
    'Take a JPEG or PNG file that opens in a picture viewer.',
    'base64',
  );
  if (type === 'image/webp') throw refused;
  // Printed for a trial: what breaks a quote is found now, not at the counter.
  await makePdf({ content: [{ image: dataAddress(type, content), fit: [160, 48] }] }).catch(() => {
    throw refused;
  });
  await db
    .insert(shopLogos)
    .values({ id: SHOP, type, content })
    .onConflictDoUpdate({ target: shopLogos.id, set: { type, content } });
  return readShop(db);
}

/** Takes the shop's sign away. */
export async function removeLogo(db: Database): Promise<Shop> {
  await db.delete(shopLogos).where(eq(shopLogos.id, SHOP));
  return readShop(db);
}
