import type { Activity } from '#core/need';
import { DEFAULT_TERMS } from '#core/quoting';
import { api } from '../app/api.ts';

/** Work the shop's customers do; what a new shop starts with until the terms are here. */
export function useUsualActivities(): readonly Activity[] {
  const { data: shop } = api.useShopQuery();
  return (shop?.terms ?? DEFAULT_TERMS).activities;
}
