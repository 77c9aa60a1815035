import { z } from 'zod';
import { session } from './access.ts';
import { backupRoutes } from './backups.ts';
import { coverMap, interleave, photoInput } from './bench.ts';
import {
  decisionInput,
  evidenceContent,
  evidenceInput,
  evidenceRecord,
  jobEvidence,
  makerInput,
  makerRecord,
} from './evidence.ts';
import { machine } from './machine.ts';
import { customer, firmwareName, listedMachine, machineRecord } from './records.ts';
import { byId, created, route, search, general } from './route.ts';
import { id, version } from './text.ts';
import { jobRoutes } from './jobRoutes.ts';
import { stockRoutes } from './stockRoutes.ts';

/** What the interface asks for from its first page on. */
export const mainRoutes = {
  health: route(
    'get',
    '/health',
    'anyone',
    'Whether the server answers',
    z.strictObject({
      ok: z.literal(true),
      isDemo: z.boolean().describe('A made-up world: machines can be simulated'),
    }),
    general,
  ),
  readSession: route('get', '/session', 'anyone', 'Who is signed in here', session),
  ...jobRoutes,
  ...backupRoutes,
  readEvidence: route('get', '/jobs/{id}/evidence', 'staff', 'All evidence of a job', jobEvidence, {
    params: byId,
  }),
  readEvidenceContent: route(
    'get',
    '/jobs/{id}/evidence/{evidenceId}',
    'staff',
    'One piece of evidence as it came',
    evidenceContent,
    { params: byId.extend({ evidenceId: id }), lasts: true },
  ),
  addEvidence: route(
    'post',
    '/jobs/{id}/evidence',
    'bench',
    'Add evidence: files as they are, labels and screens as typed',
    jobEvidence,
    {
      params: byId,
      body: z.strictObject({ documents: z.array(evidenceInput).min(1).max(100) }),
      ...created,
    },
  ),
  placeEvidence: route(
    'put',
    '/jobs/{id}/evidence/{evidenceId}/slots',
    'bench',
    'Say which slots evidence belongs to; its content stays as it is',
    jobEvidence,
    {
      params: byId.extend({ evidenceId: id }),
      body: evidenceRecord.pick({ slotIds: true }),
    },
  ),
  decideEvidence: route(
    'post',
    '/jobs/{id}/decisions',
    'bench',
    'Decide which evidence to believe',
    jobEvidence,
    {
      params: byId,
      body: z.strictObject({ decisions: z.array(decisionInput).min(1).max(50) }),
      ...created,
    },
  ),
  listMakers: route('get', '/makers', 'staff', 'The maker register', z.array(makerRecord), general),
  nameMaker: route('put', '/makers/{key}', 'bench', 'Name a maker code', z.array(makerRecord), {
    params: makerRecord.pick({ key: true }),
    body: makerInput,
  }),
  forgetMaker: route('delete', '/makers/{key}', 'bench', 'Take a name back', z.array(makerRecord), {
    params: makerRecord.pick({ key: true }),
  }),
  listCustomers: route('get', '/customers', 'staff', 'Customers by name', z.array(customer), {
    query: search,
  }),
  listMachines: route('get', '/machines', 'staff', 'The machine library', z.array(listedMachine), {
    query: search.extend({
      knownAs: firmwareName
        .optional()
        .describe(
          'Only those whose firmware is known by this name, or by another with the same board',
        ),
    }),
    ...general,
  }),
  createMachine: route('post', '/machines', 'bench', 'Add a machine', machineRecord, {
    body: z.strictObject({ machine }),
    ...created,
  }),
  readMachine: route('get', '/machines/{id}', 'staff', 'One machine', machineRecord, {
    params: byId,
    ...general,
  }),
  changeMachine: route('put', '/machines/{id}', 'bench', 'Change a machine', machineRecord, {
    params: byId,
    body: z.strictObject({ machine, version }),
  }),
  saveCover: route(
    'put',
    '/machines/{id}/cover',
    'bench',
    'Save how a machine’s cover opens, and how its addresses interleave; null forgets',
    machineRecord,
    {
      params: byId,
      body: z.strictObject({
        coverMap: coverMap.nullable().optional(),
        interleave: interleave.nullable().optional(),
        version,
      }),
    },
  ),
  savePhoto: route(
    'put',
    '/machines/{id}/photo',
    'bench',
    'Save a photo of a machine’s cover',
    machineRecord,
    {
      params: byId,
      body: photoInput,
    },
  ),
  removePhoto: route('delete', '/machines/{id}/photo', 'bench', 'Remove the photo', machineRecord, {
    params: byId,
  }),
  rememberLocator: route(
    'put',
    '/machines/{id}/locators',
    'bench',
    'Remember where a firmware’s name for a place belongs; null forgets',
    machineRecord,
    {
      params: byId,
      body: z.strictObject({
        key: z.string().min(1).max(120),
        slotId: z.string().min(1).max(40).nullable().describe('"none" = no such slot'),
      }),
    },
  ),
  ...stockRoutes,
} as const;
