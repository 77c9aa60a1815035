import { z } from 'zod';
import { session } from './access.ts';
import {
  account,
  accountChange,
  joinInput,
  newAccount,
  newPassword,
  openSession,
  passwordChange,
  pin,
  setUpInput,
  signInInput,
  tabletLink,
  takeOverInput,
} from './accounts.ts';
import { byId, created, route, storesNothing } from './route.ts';

const none = z.strictObject({});
// They keep what they do by themselves: a wrong password is counted though the request fails.
const counted = storesNothing;

/** Coming in, going out, and who may. The first page asks for the session itself. */
export const accessRoutes = {
  setUp: route(
    'post',
    '/session/set-up',
    'anyone',
    'Become the owner, at the first start',
    session,
    {
      body: setUpInput,
      ...counted,
    },
  ),
  signIn: route('post', '/session', 'anyone', 'Sign in', session, {
    body: signInInput,
    ...counted,
  }),
  takeOver: route(
    'post',
    '/session/take-over',
    'anyone',
    'Take a device over with a PIN',
    session,
    {
      body: takeOverInput,
      ...counted,
    },
  ),
  joinJob: route(
    'post',
    '/session/join',
    'anyone',
    'Let a tablet in for one job, by the code on the bench screen',
    session,
    { body: joinInput, ...counted },
  ),
  signOut: route('delete', '/session', 'anyone', 'Sign out on this device', session, counted),
  holdBench: route(
    'post',
    '/session/hold',
    'anyone',
    'Hold the bench until a PIN or a password is given',
    session,
    { body: none, ...counted },
  ),
  setPin: route(
    'put',
    '/session/pin',
    'staff',
    'Set a PIN for this device; null forgets',
    session,
    {
      body: z.strictObject({ pin: pin.nullable() }),
      ...counted,
    },
  ),
  listSessions: route('get', '/sessions', 'staff', 'Where one is signed in', z.array(openSession)),
  endSession: route(
    'delete',
    '/sessions/{id}',
    'staff',
    'Sign out another of one’s own devices',
    z.array(openSession),
    { params: byId },
  ),
  changePassword: route(
    'put',
    '/session/password',
    'staff',
    'Change one’s password; other devices are signed out',
    session,
    { body: passwordChange, ...counted },
  ),
  letTabletIn: route(
    'post',
    '/jobs/{id}/tablet',
    'staff',
    'Make a code that lets one tablet in for this job',
    tabletLink,
    { params: byId, body: none, ...created },
  ),
  listAccounts: route('get', '/accounts', 'owner', 'Everybody of the shop', z.array(account)),
  addAccount: route('post', '/accounts', 'owner', 'Add somebody', z.array(account), {
    body: newAccount,
    ...created,
  }),
  changeAccount: route(
    'put',
    '/accounts/{id}',
    'owner',
    'Change name or role, or close an account',
    z.array(account),
    { params: byId, body: accountChange },
  ),
  setPassword: route(
    'put',
    '/accounts/{id}/password',
    'owner',
    'Give somebody a new password; their devices are signed out',
    z.array(account),
    { params: byId, body: z.strictObject({ password: newPassword }) },
  ),
} as const;
