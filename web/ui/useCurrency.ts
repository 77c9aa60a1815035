import { DEFAULT_TERMS } from '#core/quoting';
import { api } from '../app/api.ts';

/** The currency amounts are typed and shown in; what a new shop has until the terms are here. */
export function useCurrency(): string {
  const { data: shop } = api.useShopQuery();
  return (shop?.terms ?? DEFAULT_TERMS).currency;
}
