import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { fileOf } from '#contract/practice';
import type { Problem } from '#contract/problem';
import type { Job, ModuleRecord } from '#contract/records';
import { routes } from '#contract/routes';
import type { Route, RouteName } from '#contract/routes';
import { DEFAULT_TERMS } from '#core/quoting';
import { anySmallQuery } from './support/anyQuery.ts';
import { Api, module } from './support/api.ts';
import { desktop } from './support/builders.ts';
import { shipped } from './support/exercises.ts';
import { often } from './support/draws.ts';

// A body somebody got wrong – in one place, in any way – is refused in words or taken as it is; it
// never breaks the server, and never changes what it was refused for.

type Json = string | number | boolean | null | Json[] | { [key: string]: Json };
type Path = readonly (string | number)[];

let api: Api;
/** For every route that takes a body: where it is sent, and one it would take. */
let examples: Partial<Record<RouteName, { path: string; body: Json }>>;
let jobPath: string;
/** The job as it was last seen. */
let known: Job;

beforeAll(async () => {
  api = await Api.start();
  // Drawn anew by night, it asks more than six thousand times a minute.
  api.isPatient = true;
  const job = await api.jobWithFound();
  jobPath = `/jobs/${job.id}`;
  const record = await api.ok<ModuleRecord>('POST', '/modules', { label: 'one', module });
  const drawerBody = { label: 'used', module, state: 'tested', price: 500, origin: 'a trade' };
  const drawer = await api.ok<{ id: string }>('POST', '/drawer', drawerBody);
  const supplier = { name: 'Mill', contact: '', serviceUrl: '' };
  const [mill] = await api.ok<{ id: string }[]>('POST', '/suppliers', supplier);
  const run = {
    ...{ kind: 'as-found', metric: 'bandwidth', test: 'copy', runs: [14, 14.1], warmUp: 0 },
    conditions: 'mains',
  };
  const { measurements } = await api.ok('POST', `${jobPath}/measurements`, run);
  const evidence = { name: 'a', base64: 'QTE6IDggR0I=', slotIds: [] };
  const { documents } = await api.ok<{ documents: { id: string }[] }>(
    'POST',
    `${jobPath}/evidence`,
    { documents: [{ kind: 'screen', ...evidence }] },
  );
  const evidenceId = documents[0]?.id ?? '';
  const returned = { slotId: 'a1', module, supplier: 'Mill', reason: 'errors' };
  await api.ok('POST', `${jobPath}/returns`, returned);
  const [back] = await api.ok<{ id: string }[]>('GET', '/returns');
  const machine = wire(desktop());
  const machinePath = `/machines/${job.machine.id}`;
  const placement = wire({ a1: module, b1: module });
  known = await api.ok('GET', jobPath);
  const bundle = await (await api.fetch(`${jobPath}/bundle`)).arrayBuffer();
  const [query] = fc.sample(anySmallQuery, { numRuns: 1, seed: 2 });
  const fastener = { kind: 'fastener', id: 'f1', x: 10, y: 10, drive: 'cross', size: '1' };
  const cover = { width: 300, height: 200, note: '' };
  const ticket = { kind: 'as-found', power: 'unknown' };
  const exercise = { ...fileOf(shipped('deck-plan')), id: 'deck-plan-again' };
  examples = {
    createJob: anyOf('/jobs', {
      ...{ customer: { name: 'Net loft', contact: '12' }, machineId: job.machine.id },
      ...{ complaint: 'Slow', count: 1, knownAs: 'lantern | b7', documents: [] },
      found: { placement, setting: 'standard' },
    }),
    importJob: anyOf('/jobs/import', { base64: Buffer.from(bundle).toString('base64') }),
    changeJob: anyOf(jobPath, { version: 1, need: 11, complaint: 'Slow' }),
    saveSnapshot: anyOf(`${jobPath}/snapshots/planned`, {
      ...{ placement, setting: 'standard', version: 0 },
    }),
    addMeasurement: anyOf(`${jobPath}/measurements`, { ...run, test: 'multiply-add' }),
    changeMeasurement: anyOf(`${jobPath}/measurements/${measurements[0]?.id ?? ''}`, {
      ...{ ...run, version: 1 },
    }),
    closeJob: anyOf(`${jobPath}/close`, { version: 1 }),
    reopenJob: anyOf(`${jobPath}/reopen`, { version: 1 }),
    addBenchNote: anyOf(`${jobPath}/bench`, {
      ...{ id: 'n1', note: { type: 'sits', placement, setting: 'standard' } },
    }),
    addMemoryTest: anyOf(`${jobPath}/memory-tests`, {
      ...{ kind: 'before the system starts', minutes: 60, passes: 1, errors: 0 },
      ...{ tool: 't', conditions: '' },
    }),
    addReturn: anyOf(`${jobPath}/returns`, returned),
    changeReturn: anyOf(`/returns/${back?.id ?? ''}`, { state: 'sent', version: 1 }),
    makeTicket: anyOf(`${jobPath}/tickets`, ticket),
    addCarried: anyOf(`${jobPath}/carried`, { ...ticket, code: 'abcd' }),
    simulateResult: anyOf(`${jobPath}/simulated`, { ...ticket, fault: 'none' }),
    leaveOut: anyOf('/ledger/none/left-out', { isLeftOut: true }),
    changeDoor: anyOf('/door', {
      ...{ terms: { isOpen: false, address: '127.0.0.1', port: 4880 }, version: 0 },
    }),
    addEvidence: anyOf(`${jobPath}/evidence`, { documents: [{ kind: 'screen', ...evidence }] }),
    placeEvidence: anyOf(`${jobPath}/evidence/${evidenceId}/slots`, { slotIds: ['a1'] }),
    decideEvidence: anyOf(`${jobPath}/decisions`, {
      decisions: [{ slotId: 'a1', field: 'capacity', evidenceId }],
    }),
    nameMaker: anyOf('/makers/3-4F', { name: 'Third mill' }),
    createMachine: anyOf('/machines', { machine }),
    changeMachine: anyOf(machinePath, { machine, version: 1 }),
    saveCover: anyOf(`${machinePath}/cover`, {
      coverMap: {
        ...cover,
        parts: [{ ...fastener, length: 6, captive: false, under: 'nothing' }],
      },
      ...{ interleave: { granule: 256, order: ['A', 'B'] }, version: 1 },
    }),
    savePhoto: anyOf(`${machinePath}/photo`, { base64: 'iVBORw0KGgo=' }),
    rememberLocator: anyOf(`${machinePath}/locators`, { key: 'BANK 0', slotId: 'a1' }),
    createModule: anyOf('/modules', { label: 'two', module, price: 100, units: 1 }),
    changeModule: anyOf(`/modules/${record.id}`, { label: 'one', module, version: 1 }),
    importModules: anyOf('/modules/import', { modules: [{ label: 'three', module }] }),
    addToDrawer: anyOf('/drawer', drawerBody),
    changeInDrawer: anyOf(`/drawer/${drawer.id}`, { ...drawerBody, version: 1 }),
    letGo: anyOf(`/drawer/${drawer.id}/gone`, { how: 'sold', note: '', version: 9 }),
    takeBack: anyOf(`/drawer/${drawer.id}/back`, { version: 1 }),
    holdPiece: anyOf(`/drawer/${drawer.id}/reservation`, { jobNumber: null, version: 1 }),
    compareCount: anyOf('/stock/count', { place: null, scanned: ['a'] }),
    takeCount: anyOf('/stock/counts', { place: 'shelf', scanned: ['a'], writeOff: [] }),
    addSupplier: anyOf('/suppliers', { ...supplier, name: 'Second mill' }),
    changeSupplier: anyOf(`/suppliers/${mill?.id ?? ''}`, { ...supplier, version: 1 }),
    takePriceList: anyOf(`/suppliers/${mill?.id ?? ''}/prices`, {
      columns: { article: 'Item' },
      changes: [],
      additions: [{ article: 'A', label: 'four', module, units: 1, cost: 5 }],
    }),
    previewRestore: anyOf('/backups/preview', { name: 'none' }),
    restoreBackup: anyOf('/backups/restore', { name: 'none' }),
    eraseCustomer: anyOf('/customers/none/erase', { name: 'nobody' }),
    askSupplier: anyOf(`/suppliers/${mill?.id ?? ''}/ask`, {}),
    placeOrder: anyOf('/orders', {
      ...{ id: 'o', supplier: 'Mill', reference: '', send: false },
      lines: [{ quoteId: 'none', at: 0 }],
    }),
    receiveOrder: anyOf('/orders/none/receipts', {
      ...{ lines: [{ lineId: 'l', packs: 1, cost: 5 }], place: '' },
    }),
    cancelOrderLines: anyOf('/orders/none/cancelled', { lineIds: ['l'] }),
    saveLogo: anyOf('/shop/logo', { base64: 'iVBORw0KGgo=' }),
    changeShop: anyOf('/shop', { terms: DEFAULT_TERMS, version: 0 }),
    issueQuote: anyOf(`${jobPath}/quotes`, { setting: 'standard', units: [], expected: 0 }),
    answerQuote: anyOf(`${jobPath}/quotes/none/answer`, { what: 'accepted', by: 'Harbour master' }),
    searchPlans: anyOf('/plans/search', { query, deadlineMs: 200 }),
    operatingPoint: anyOf('/operating-point', { machine, placement, setting: 'standard' }),
    readLabel: anyOf('/labels/read', { text: '8GB 1Rx8 PC4-2400T' }),
    importExercise: anyOf('/practice/exercises', exercise),
    exerciseFromJob: anyOf(`/practice/exercises/from-job/${job.id}`, {}),
    changeExercise: anyOf('/practice/exercises/deck-plan-again', {
      ...{ title: 'Deck plans', level: 2, teaches: ['one channel'], version: 1 },
      ...{ customer: exercise.customer, goal: exercise.goal },
    }),
    recordPracticeRun: anyOf('/practice/runs', {
      ...{ exerciseId: 'deck-plan', solved: true, minutes: 30, parMinutes: 25 },
      ...{ spent: 0, acts: 14, unsafe: 0 },
    }),
    ...accessExamples(jobPath),
    readInventory: anyOf('/inventory/read', { files: [{ name: 'a', base64: 'QTE6IDggR0I=' }] }),
  };
});
afterAll(() => api.server.stop());

const wire = <T>(value: T) => JSON.parse(JSON.stringify(value)) as Json;
const anyOf = (path: string, body: unknown) => ({ path, body: wire(body) });

/** Coming in and who may; never what would let somebody in or out. */
const accessExamples = (jobPath: string) => {
  const password = 'brine harbour 7 oak';
  return {
    setUp: anyOf('/session/set-up', { name: 'Somebody', password }),
    signIn: anyOf('/session', { name: 'Nobody', password }),
    takeOver: anyOf('/session/take-over', { accountId: 'none', pin: '2580' }),
    joinJob: anyOf('/session/join', { token: 'nobody-made-this-code-at-all' }),
    holdBench: anyOf('/session/hold', {}),
    setPin: anyOf('/session/pin', { pin: null }),
    changePassword: anyOf('/session/password', { old: 'not this one', password }),
    letTabletIn: anyOf(`${jobPath}/tablet`, {}),
    addAccount: anyOf('/accounts', { name: 'Newcomer', role: 'counter', password }),
    changeAccount: anyOf('/accounts/none', {
      ...{ version: 1, name: 'Newcomer', role: 'counter', isActive: true },
    }),
    setPassword: anyOf('/accounts/none/password', { password }),
    changeNetwork: anyOf('/network', {
      ...{ terms: { isOpen: false, address: '', port: 4871 }, version: 77 },
    }),
    sayHere: anyOf('/live/here', { tab: 'a', jobId: null, step: 'fit', draft: null }),
  };
};
/** What a visitor does who is nobody yet. */
const AT_THE_DOOR: ReadonlySet<string> = new Set([
  'setUp',
  'signIn',
  'takeOver',
  'joinJob',
  'holdBench',
]);

/** Every place in a value, the whole first. */
function placesIn(value: Json, at: Path = []): Path[] {
  if (value === null || typeof value !== 'object') return [at];
  const inner = Array.isArray(value) ? [...value.entries()] : Object.entries(value);
  return [at, ...inner.flatMap(([key, part]) => placesIn(part, [...at, key]))];
}

/** The value with the part at a place changed; nothing put there takes it away. */
function changed(value: Json, [key, ...rest]: Path, to: Json | undefined): Json | undefined {
  if (key === undefined) return to;
  if (Array.isArray(value))
    return value.flatMap((part, at) => (at === key ? (changed(part, rest, to) ?? []) : [part]));
  const object = value as Record<string, Json>;
  const part = changed(object[key] ?? null, rest, to);
  const { [key]: _gone, ...others } = object;
  return part === undefined ? others : { ...others, [key]: part };
}

/** What people, scripts and mischief put where something else belongs. */
const anyJunk: fc.Arbitrary<Json | undefined> = fc.oneof(
  fc.constantFrom<(Json | undefined)[]>(
    ...[undefined, null, '', ' ', true, [], {}, -1, 0, 0.5, 1e308, 2 ** 53, 'unknown', 'none'],
    ...['x'.repeat(5000), '\u0000', 'a\u0000b', '\ud800', '\u202e🐧', '__proto__', "'; --"],
    ...[['a1', 'a1'], { constructor: 1 }, [[[[[]]]]], Array<Json>(300).fill('a1')],
  ),
  fc.string({ unit: 'binary', maxLength: 40 }),
  fc.double({ noNaN: true, noDefaultInfinity: true }),
  fc.jsonValue({ maxDepth: 2 }) as fc.Arbitrary<Json>,
);

const anyChange = (body: Json) =>
  fc
    .array(fc.tuple(fc.constantFrom(...placesIn(body)), anyJunk), { minLength: 1, maxLength: 2 })
    .map((changes) =>
      changes.reduce<Json>((value, [place, junk]) => {
        const isThere = placesIn(value).some((one) => one.join('/') === place.join('/'));
        return isThere ? (changed(value, place, junk) ?? null) : value;
      }, body),
    );

const taking = Object.entries(routes as Record<string, Route>).flatMap(([name, { method, body }]) =>
  ['post', 'put', 'patch'].includes(method) && !body.safeParse(undefined).success
    ? [name as RouteName]
    : [],
);

/** Sends a body; whatever comes of it must not be a break, and a refusal must have changed nothing. */
async function survives(name: RouteName, body: Json): Promise<void> {
  const { method } = routes[name];
  const visitor = AT_THE_DOOR.has(name) ? api.stranger() : api;
  const answer = await visitor.send<Partial<Problem>>(
    method.toUpperCase(),
    exampleOf(name).path,
    body,
  );
  expect(answer.status, JSON.stringify(body).slice(0, 2000)).toBeLessThan(500);
  if (answer.status < 400) {
    known = await api.ok('GET', jobPath);
    return;
  }
  const { title, detail, mend, fields } = answer.body;
  expect([title, detail].join('').trim()).not.toBe('');
  expect(mend ?? fields?.[0]?.message).toEqual(expect.stringMatching(/\S/));
  expect(await api.ok('GET', jobPath)).toEqual(known);
}

function exampleOf(name: RouteName) {
  const example = examples[name];
  if (!example) throw new Error(`expected an example of a body for ${name}, found none`);
  return example;
}

describe.each(taking)('a body for %s', (name) => {
  test('is taken, or runs into what it finds there', async () => {
    const { body } = exampleOf(name);
    expect(routes[name].body.safeParse(body)).toMatchObject({ success: true });
    await survives(name, body);
  });

  test('got wrong in any way is refused in words or taken whole', () =>
    fc.assert(
      fc.asyncProperty(anyChange(exampleOf(name).body), (body) => survives(name, body)),
      { numRuns: often(3, 25) },
    ));

  test('with text no database keeps breaks nothing, wherever it stands', async () => {
    const { body } = exampleOf(name);
    for (const place of placesIn(body)) {
      const part = place.reduce<Json | undefined>((at, key) => (at as never)?.[key], body);
      if (typeof part !== 'string') continue;
      await survives(name, changed(body, place, `${part}\u0000\ud800`) ?? null);
    }
  });
});

test('text with a stray zero in it is kept, and the place stays visible', async () => {
  const customer = { name: 'Zero\u0000loft', contact: 'half \ud83d a bird' };
  const { machine } = await api.ok('GET', jobPath);
  const job = await api.ok('POST', '/jobs', { customer, machineId: machine.id, complaint: 'Slow' });
  expect(job.customer).toMatchObject({ name: 'Zero\ufffdloft', contact: 'half \ufffd a bird' });
});

test.each(['/jobs/%00', '/jobs?search=%00', '/jobs/%E0%A4%A', '/machines/%00/cover.svg'])(
  'the address %s is refused in words',
  async (path) => {
    const { status, mend } = await api.problem('GET', path);
    expect(status).toBe(400);
    expect(mend).toMatch(/\S/);
  },
);
