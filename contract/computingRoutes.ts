import { labelInput, labelOutput, operatingPointInput, operatingPointOutput } from './computing.ts';
import { inventoryInput, inventoryOutput } from './inventory.ts';
import { planSearchInput, planSearchOutput } from './planning.ts';
import { route, storesNothing, general } from './route.ts';

/** What other programs may have computed; the interface computes it by itself. */
export const computingRoutes = {
  searchPlans: route(
    'post',
    '/plans/search',
    'staff',
    'Every sensible way to upgrade a machine; stores nothing',
    planSearchOutput,
    { body: planSearchInput, ...storesNothing, ...general },
  ),
  operatingPoint: route(
    'post',
    '/operating-point',
    'staff',
    'What a placement does in a machine; stores nothing',
    operatingPointOutput,
    { body: operatingPointInput, ...storesNothing, ...general },
  ),
  readLabel: route(
    'post',
    '/labels/read',
    'staff',
    'Read a module label; stores nothing',
    labelOutput,
    {
      body: labelInput,
      ...storesNothing,
      ...general,
    },
  ),
  readInventory: route(
    'post',
    '/inventory/read',
    'staff',
    'Read inventory files of a machine; stores nothing',
    inventoryOutput,
    { body: inventoryInput, ...storesNothing, ...general },
  ),
} as const;
