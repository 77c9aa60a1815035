import { labelInput, labelOutput, operatingPointInput, operatingPointOutput } from './computing.ts';
import { inventoryInput, inventoryOutput } from './inventory.ts';
import { planSearchInput, planSearchOutput } from './planning.ts';
import { route, storesNothing } from './route.ts';

/** What other programs may have computed; the interface computes it by itself. */
export const computingRoutes = {
  searchPlans: route(
    'post',
    '/plans/search',
    'Every sensible way to upgrade a machine; stores nothing',
    planSearchOutput,
    { body: planSearchInput, ...storesNothing },
  ),
  operatingPoint: route(
    'post',
    '/operating-point',
    'What a placement does in a machine; stores nothing',
    operatingPointOutput,
    { body: operatingPointInput, ...storesNothing },
  ),
  readLabel: route('post', '/labels/read', 'Read a module label; stores nothing', labelOutput, {
    body: labelInput,
    ...storesNothing,
  }),
  readInventory: route(
    'post',
    '/inventory/read',
    'Read inventory files of a machine; stores nothing',
    inventoryOutput,
    { body: inventoryInput, ...storesNothing },
  ),
} as const;
