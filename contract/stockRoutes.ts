import { z } from 'zod';
import { moduleInput, moduleRecord } from './records.ts';
import { photoInput } from './bench.ts';
import { drawerInput, drawerRecord } from './drawer.ts';
import { shop, shopTerms } from './quotes.ts';
import { byId, created, route, search, general } from './route.ts';
import { id, version, versionOrNone } from './text.ts';

/** What can be bought, what lies in the drawer, and what the shop charges. */
export const stockRoutes = {
  listModules: route('get', '/modules', 'staff', 'The module catalogue', z.array(moduleRecord), {
    query: search,
    ...general,
  }),
  createModule: route('post', '/modules', 'prices', 'Add a module', moduleRecord, {
    body: moduleInput,
    ...created,
  }),
  changeModule: route('put', '/modules/{id}', 'prices', 'Change a module', moduleRecord, {
    params: byId,
    body: moduleInput.extend({ version }),
  }),
  removeModule: route(
    'delete',
    '/modules/{id}',
    'prices',
    'Take a module out of the catalogue',
    z.array(moduleRecord),
    {
      params: byId,
    },
  ),
  importModules: route(
    'post',
    '/modules/import',
    'prices',
    'Add and change many modules at once, all or none',
    z.array(moduleRecord),
    {
      body: z.strictObject({
        modules: z
          .array(moduleInput.extend({ id: id.optional() }))
          .min(1)
          .max(10_000),
      }),
    },
  ),
  listDrawer: route('get', '/drawer', 'staff', 'Modules in stock', z.array(drawerRecord), {
    ...general,
    query: z.strictObject({
      generations: z
        .string()
        .max(80)
        .default('')
        .describe('Only of these, separated by commas; empty = all'),
    }),
  }),
  addToDrawer: route('post', '/drawer', 'bench', 'Put a module into the drawer', drawerRecord, {
    body: drawerInput,
    ...created,
  }),
  changeInDrawer: route(
    'put',
    '/drawer/{id}',
    'bench',
    'Change a module in the drawer',
    drawerRecord,
    { params: byId, body: drawerInput.extend({ version }) },
  ),
  readShop: route('get', '/shop', 'staff', 'What the shop charges and promises', shop, general),
  saveLogo: route('put', '/shop/logo', 'owner', 'Save the shop’s sign', shop, { body: photoInput }),
  removeLogo: route('delete', '/shop/logo', 'owner', 'Take the shop’s sign away', shop),
  changeShop: route('put', '/shop', 'owner', 'Change what the shop charges and promises', shop, {
    body: z.strictObject({ terms: shopTerms, version: versionOrNone }),
  }),
} as const;
