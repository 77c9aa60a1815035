import { z } from 'zod';
import { moduleInput, moduleRecord } from './records.ts';
import { drawerInput, drawerRecord, shop, shopTerms } from './quotes.ts';
import { byId, created, route, search } from './route.ts';
import { id, version, versionOrNone } from './text.ts';

/** What can be bought, what lies in the drawer, and what the shop charges. */
export const stockRoutes = {
  listModules: route('get', '/modules', 'The module catalogue', z.array(moduleRecord), {
    query: search,
  }),
  createModule: route('post', '/modules', 'Add a module', moduleRecord, {
    body: moduleInput,
    ...created,
  }),
  changeModule: route('put', '/modules/{id}', 'Change a module', moduleRecord, {
    params: byId,
    body: moduleInput.extend({ version }),
  }),
  removeModule: route(
    'delete',
    '/modules/{id}',
    'Take a module out of the catalogue',
    z.array(moduleRecord),
    {
      params: byId,
    },
  ),
  importModules: route(
    'post',
    '/modules/import',
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
  listDrawer: route('get', '/drawer', 'Used modules in the drawer', z.array(drawerRecord)),
  addToDrawer: route('post', '/drawer', 'Put a module into the drawer', z.array(drawerRecord), {
    body: drawerInput,
    ...created,
  }),
  changeInDrawer: route(
    'put',
    '/drawer/{id}',
    'Change a module in the drawer',
    z.array(drawerRecord),
    {
      params: byId,
      body: drawerInput.extend({ version }),
    },
  ),
  takeFromDrawer: route(
    'delete',
    '/drawer/{id}',
    'Take a module out of the drawer',
    z.array(drawerRecord),
    {
      params: byId,
    },
  ),
  readShop: route('get', '/shop', 'What the shop charges and promises', shop),
  changeShop: route('put', '/shop', 'Change what the shop charges and promises', shop, {
    body: z.strictObject({ terms: shopTerms, version: versionOrNone }),
  }),
} as const;
