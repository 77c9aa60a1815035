import { accessRoutes } from './accessRoutes.ts';
import { auditRoutes } from './audit.ts';
import { restoreRoutes } from './backups.ts';
import { customerDataRoutes } from './customerData.ts';
import { computingRoutes } from './computingRoutes.ts';
import { mainRoutes } from './mainRoutes.ts';
import { liveRoutes } from './live.ts';
import { measuringRoutes } from './measuringRoutes.ts';
import { monthRoutes } from './month.ts';
import { networkRoutes } from './network.ts';
import { practiceRoutes } from './practiceRoutes.ts';
import { stockKeepingRoutes } from './stockKeeping.ts';
import { supplierRoutes } from './suppliers.ts';

export type { Route } from './route.ts';

/**
 * Every route of the API. The interface has the main ones from the first page on; those of a feature
 * come with the feature.
 */
export const routes = {
  ...mainRoutes,
  ...liveRoutes,
  ...measuringRoutes,
  ...networkRoutes,
  ...accessRoutes,
  ...auditRoutes,
  ...computingRoutes,
  ...practiceRoutes,
  ...stockKeepingRoutes,
  ...supplierRoutes,
  ...monthRoutes,
  ...restoreRoutes,
  ...customerDataRoutes,
} as const;

export type Routes = typeof routes;
export type RouteName = keyof Routes;
