import type { Role } from '#contract/access';

/** Roles as the shop calls them, with what they are for. */
export const ROLE_WORDS: Readonly<Record<Role, { readonly name: string; readonly may: string }>> = {
  owner: { name: 'Owner', may: 'Everything: prices, policy, people, backups, the month.' },
  technician: {
    name: 'Technician',
    may: 'Opens machines: everything of a job, the machine library, the drawer. Not prices and policy.',
  },
  counter: {
    name: 'Counter',
    may: 'Intake, quotes, handing over, catalogue and orders. Not what is done at the open machine.',
  },
};
