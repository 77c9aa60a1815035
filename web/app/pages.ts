import { mayCall } from '#contract/access';
import type { Access, Role } from '#contract/access';

/** A page one goes to by name. */
export interface PageLink {
  readonly to: string;
  readonly label: string;
  /** Who has it in the bar; everybody where it is not said. */
  readonly access?: Access;
}

/** Pages of one kind, under one entry of the bar; a group of one page is the page itself. */
export interface PageGroup {
  readonly label: string;
  readonly pages: readonly [PageLink, ...PageLink[]];
}

/** Every page of the bar, in its order; the palette offers the same. */
export const PAGE_GROUPS: readonly PageGroup[] = [
  { label: 'Bench', pages: [{ to: '/', label: 'Bench' }] },
  {
    label: 'Library',
    pages: [
      { to: '/machines', label: 'Machines' },
      { to: '/modules', label: 'Modules' },
      { to: '/makers', label: 'Makers' },
    ],
  },
  {
    label: 'Stock',
    pages: [
      { to: '/drawer', label: 'Drawer' },
      { to: '/count', label: 'Count' },
      { to: '/gone', label: 'What left' },
      { to: '/orders', label: 'Orders' },
      { to: '/suppliers', label: 'Suppliers' },
      { to: '/returns', label: 'Returns' },
    ],
  },
  { label: 'Results', pages: [{ to: '/ledger', label: 'Results' }] },
  {
    label: 'Practice',
    pages: [
      { to: '/practice', label: 'Practice bench' },
      { to: '/sandbox', label: 'Sandbox' },
    ],
  },
  { label: 'Calculators', pages: [{ to: '/calculators', label: 'Calculators' }] },
  {
    label: 'Shop',
    pages: [
      { to: '/shop', label: 'Terms' },
      { to: '/month', label: 'Month', access: 'owner' },
      { to: '/people', label: 'People', access: 'owner' },
      { to: '/customers', label: 'Customers’ data', access: 'owner' },
      { to: '/network', label: 'Network', access: 'owner' },
      { to: '/changes', label: 'Changes', access: 'owner' },
      { to: '/me', label: 'Your account' },
    ],
  },
];

/** Whether a page is in the bar of somebody. */
export const isFor = ({ access = 'staff' }: PageLink, role: Role): boolean => mayCall(role, access);

/** What is begun from anywhere. */
export const BEGINNINGS: readonly PageLink[] = [
  { to: '/jobs/new', label: 'New job' },
  { to: '/machines/new', label: 'Describe a machine' },
];

const holds = ({ to }: PageLink, path: string): boolean =>
  to === '/'
    ? path === '/' || path.startsWith('/jobs') || path.startsWith('/batches')
    : path === to || path.startsWith(`${to}/`);

/** The group a path belongs to; jobs belong to the bench. */
export function groupOf(path: string): PageGroup | undefined {
  return PAGE_GROUPS.find(({ pages }) => pages.some((page) => holds(page, path)));
}
