import { MARKET, costOf } from '../market.ts';
import type { SupplierParts } from './supplier.ts';

/** The made-up supplier with a service of its own. */
export const QUAY = 'Quayside electronics';
/** Not a secret: it opens a made-up shop. */
export const QUAY_KEY = 'quay-lamp-7';

/** Its wares as the catalogue has them, some a little dearer by now; usually well, now and then not. */
export function quaySupplier(): SupplierParts {
  return {
    ...{ currency: 'EUR', key: QUAY_KEY, slowMs: 1500 },
    moods: ['steady', 'down', 'steady', 'slow', 'busy', 'steady'],
    wares: MARKET.filter(({ supplier }) => supplier === QUAY).map((line, at) => ({
      ...{
        article: line.article,
        leadDays: 1 + (at % 3),
        stock: at % 4 === 3 ? 0 : (line.stock ?? 5),
      },
      cost: Math.round((costOf(line) ?? 1000) * (at % 3 === 1 ? 1.06 : 1)),
    })),
  };
}
