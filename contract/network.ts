import { z } from 'zod';
import { door, doorInput } from './measuring.ts';
import { route, storesNothing } from './route.ts';
import { moment } from './text.ts';

/** Where tablets and other computers of the shop reach the bench, and by what certificate. */
export const network = door.extend({
  /** Said by TEMBRIX_LISTEN: not to be changed here. */
  isFixed: z.boolean(),
  /** Of the shop’s own making; null before the line was first opened. */
  certificate: z
    .strictObject({
      validUntil: moment,
      /** SHA-256 of what a tablet is told to trust. */
      fingerprint: z.string(),
    })
    .nullable(),
});

/** The bench beyond this computer. */
export const networkRoutes = {
  readNetwork: route('get', '/network', 'owner', 'Where other devices reach the bench', network),
  changeNetwork: route(
    'put',
    '/network',
    'owner',
    'Open the bench to other devices, move it or shut it',
    network,
    // It keeps its own terms, and opens or shuts a port besides.
    { body: doorInput, ...storesNothing },
  ),
} as const;

export type Network = z.infer<typeof network>;
