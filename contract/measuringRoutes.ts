import { z } from 'zod';
import {
  carriedInput,
  door,
  doorInput,
  madeTicket,
  probeRecord,
  simulateInput,
  ticket,
  ticketInput,
} from './measuring.ts';
import { ledger, ledgerQuery, ledgerShares, leftOutInput } from './ledger.ts';
import { job } from './records.ts';
import { byId, created, route, storesNothing, general } from './route.ts';
import { id } from './text.ts';

/** Links to the measuring page, what came of them, and the door other machines reach it by. */
export const measuringRoutes = {
  makeTicket: route(
    'post',
    '/jobs/{id}/tickets',
    'bench',
    'Make a link to the measuring page: one result, within an hour, for this job alone',
    madeTicket,
    { params: byId, body: ticketInput, ...created },
  ),
  listTickets: route(
    'get',
    '/jobs/{id}/tickets',
    'staff',
    'Links of a job, the latest first',
    z.array(ticket),
    { params: byId },
  ),
  withdrawTicket: route(
    'delete',
    '/jobs/{id}/tickets/{ticketId}',
    'bench',
    'Make a link useless',
    z.array(ticket),
    { params: byId.extend({ ticketId: id }) },
  ),
  addCarried: route(
    'post',
    '/jobs/{id}/carried',
    'bench',
    'Record a result brought by hand: a typed code, or the page’s file',
    job,
    { params: byId, body: carriedInput, ...created },
  ),
  simulateResult: route(
    'post',
    '/jobs/{id}/simulated',
    'bench',
    'Let a simulated machine send a result; in a made-up world only',
    job,
    { params: byId, body: simulateInput, ...created },
  ),
  listResults: route(
    'get',
    '/jobs/{id}/results',
    'staff',
    'Results of the measuring page, the latest first',
    z.array(probeRecord),
    { params: byId },
  ),
  readLedger: route(
    'get',
    '/ledger',
    'staff',
    'What closed jobs proved, the latest first',
    ledger,
    {
      query: ledgerQuery,
    },
  ),
  readShares: route(
    'get',
    '/ledger/shares',
    'staff',
    'What closed jobs say about the shares predictions go by',
    ledgerShares,
  ),
  readDoor: route(
    'get',
    '/door',
    'staff',
    'Where other machines reach the measuring page',
    door,
    general,
  ),
  leaveOut: route(
    'put',
    '/ledger/{id}/left-out',
    'bench',
    'Leave an odd job out of predictions, or count it again',
    ledgerShares,
    { params: byId, body: leftOutInput },
  ),
  changeDoor: route('put', '/door', 'owner', 'Open, move or shut the measuring door', door, {
    body: doorInput,
    // The door keeps its own terms, and opens or shuts a port besides.
    ...storesNothing,
  }),
} as const;
