import { z } from 'zod';
import { byId, route } from './route.ts';
import { id, words } from './text.ts';

/** A customer with what is held of them. */
export const heldCustomer = z.strictObject({
  ...{ id, name: z.string(), contact: z.string(), isErased: z.boolean() },
  jobs: z.number().int(),
  openJobs: z.number().int(),
  files: z.number().int(),
});
export const erased = z.strictObject({
  jobs: z.number().int(),
  files: z.number().int(),
  /** Backups made while the customer was known: they still hold what was erased. */
  backups: z.array(z.string()),
});

/** What the shop holds of a person, out or away. */
export const customerDataRoutes = {
  listHeldCustomers: route(
    'get',
    '/customers/held',
    'owner',
    'Customers, with what is held of each',
    z.array(heldCustomer),
    { query: z.strictObject({ search: words }) },
  ),
  eraseCustomer: route(
    'post',
    '/customers/{id}/erase',
    'owner',
    'Erase a customer: jobs become nobody’s, what they proved stays',
    erased,
    {
      params: byId,
      body: z.strictObject({
        name: z.string().normalize('NFC').max(120).describe('As it stands, to be sure'),
      }),
    },
  ),
} as const;

export type HeldCustomer = z.infer<typeof heldCustomer>;
export type Erased = z.infer<typeof erased>;
