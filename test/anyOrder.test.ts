import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Ledger } from '#contract/ledger';
import type { MadeTicket, Ticket } from '#contract/measuring';
import { jobFacts } from '#contract/jobProof';
import type { Job, JobSummary } from '#contract/records';
import { simulateProbe } from '#core/proving';
import { nextStep } from '#core/walk';
import { Api, module } from './support/api.ts';
import { askRaw } from './support/askRaw.ts';
import { desktop, labelled, running } from './support/builders.ts';
import { walking } from './support/draws.ts';

// Whatever is done to jobs, in whatever order: the server says what a plain model says, what is
// refused changes nothing, and the history only ever grows.

const SIDES = ['as-found', 'as-fitted'] as const;
type Side = (typeof SIDES)[number];
const KINDS = [...SIDES, 'planned'] as const;
type Kind = (typeof KINDS)[number];
const other = labelled('16GB 2Rx8 PC4-2666V-UB1-11');
const PLACEMENTS = [{ a1: module }, { a1: module, b1: module }, { a1: other, b1: other }, {}];

interface Run {
  readonly id: string;
  version: number;
  runs: number[];
}
interface ModelJob {
  readonly id: string;
  version: number;
  complaint: string;
  isClosed: boolean;
  readonly snapshots: Map<Kind, { version: number; placement: object }>;
  readonly runs: Map<string, Run>;
  readonly tokens: { readonly token: string; readonly side: Side; usedBy: number | null }[];
  passes: number;
  pageResults: number;
  events: Job['events'];
}
interface Model {
  readonly jobs: ModelJob[];
}

/** What was done, and what was refused: a test that never gets far proves nothing. */
const reached = new Set<string>();
let api: Api;
let machineId: string;
beforeAll(async () => {
  api = await Api.start(undefined, { measuringPage: '<!doctype html><title>page</title>' });
  api.isPatient = true;
  ({ id: machineId } = await api.ok<{ id: string }>('POST', '/machines', { machine: desktop() }));
});
afterAll(() => api.server.stop());

function simulated(visit: number) {
  return simulateProbe(desktop(), running(desktop(), { a1: module }), 'none', visit);
}

/** One thing somebody does. What the model expects to be refused must be, with the status it says. */
abstract class Deed implements fc.AsyncCommand<Model, Api> {
  constructor(readonly at: number) {}
  check = ({ jobs }: Readonly<Model>) => jobs.length > 0;
  abstract toString(): string;
  /** Does it and follows in the model; returns the job it was done to. */
  abstract act(job: ModelJob, api: Api): Promise<void>;

  async run(model: Model, real: Api): Promise<void> {
    const job = model.jobs[this.at % model.jobs.length];
    if (!job) throw new Error('expected a job in the model, found none');
    await this.act(job, real);
    await compare(job, real);
  }

  /** Sends; a status from 400 on must be the one the model expects. */
  protected async send<T = Job>(method: string, path: string, body: unknown, refused?: number) {
    const answer = await api.send<T>(method, path, body);
    const expected = refused === undefined ? answer.status < 400 : answer.status === refused;
    const said = JSON.stringify(answer.body).slice(0, 400);
    expect(
      expected,
      `${method} ${path} gave ${answer.status}, not ${refused ?? 'ok'}: ${said}`,
    ).toBe(true);
    reached.add(`${this.constructor.name}${refused === undefined ? '' : ' refused'}`);
    return refused === undefined ? answer.body : undefined;
  }
}

/** The job as the server has it is the job as the model has it. */
async function compare(job: ModelJob, real: Api): Promise<void> {
  const now = await real.ok('GET', `/jobs/${job.id}`);
  expect(now).toMatchObject({ version: job.version, complaint: job.complaint });
  expect(now.result !== null).toBe(job.isClosed);
  expect(now.memoryTests).toHaveLength(job.passes);
  expect(
    new Map(now.snapshots.map(({ kind, version, placement }) => [kind, { version, placement }])),
  ).toEqual(job.snapshots);
  const typed = now.measurements.filter(({ test: name }) => name.startsWith('typed'));
  expect(
    new Map(typed.map(({ kind, test: name, ...one }) => [`${kind} ${name}`, pick(one)])),
  ).toEqual(job.runs);
  // Whatever happened, what was written down before still stands, word for word.
  expect(now.events.slice(0, job.events.length)).toEqual(job.events);
  job.events = now.events;
  const tickets = await real.ok<Ticket[]>('GET', `/jobs/${job.id}/tickets`);
  expect(tickets.map(({ state }) => state).sort()).toEqual(
    job.tokens.map(({ usedBy }) => (usedBy === null ? 'waiting' : 'used')).sort(),
  );
  const results = await real.ok<unknown[]>('GET', `/jobs/${job.id}/results`);
  expect(results).toHaveLength(job.pageResults);
}
const pick = ({ id, version, runs }: Run): Run => ({ id, version, runs });

class Open implements fc.AsyncCommand<Model, Api> {
  check = ({ jobs }: Readonly<Model>) => jobs.length < 3;
  toString = () => 'open';
  async run({ jobs }: Model, real: Api): Promise<void> {
    const customer = { name: 'Tide model student', contact: '' };
    const { id, version, events } = await real.ok('POST', '/jobs', {
      ...{ customer, machineId, complaint: 'Slow' },
    });
    jobs.push({
      ...{ id, version, events, complaint: 'Slow', isClosed: false, passes: 0, pageResults: 0 },
      ...{ snapshots: new Map(), runs: new Map(), tokens: [] },
    });
  }
}

class Save extends Deed {
  constructor(
    at: number,
    readonly kind: Kind,
    readonly placed: number,
    readonly isStale: boolean,
  ) {
    super(at);
  }
  toString = () => `save ${this.kind} ${this.placed}${this.isStale ? ', stale' : ''}`;
  async act(job: ModelJob) {
    const known = job.snapshots.get(this.kind)?.version ?? 0;
    const version = this.isStale ? known + 1 : known;
    const placement = PLACEMENTS[this.placed] ?? {};
    const saved = await this.send(
      'PUT',
      `/jobs/${job.id}/snapshots/${this.kind}`,
      { placement, setting: 'standard', version },
      job.isClosed || this.isStale ? 409 : undefined,
    );
    if (saved) job.snapshots.set(this.kind, { version: known + 1, placement });
  }
}

class Measure extends Deed {
  constructor(
    at: number,
    readonly side: Side,
    readonly name: number,
    readonly runs: number[],
  ) {
    super(at);
  }
  toString = () => `measure ${this.side} ${this.name}: ${this.runs.join(' ')}`;
  async act(job: ModelJob) {
    const name = `typed ${this.name}`;
    const key = `${this.side} ${name}`;
    const known = job.runs.get(key);
    const body = {
      ...{ kind: this.side, metric: 'bandwidth', test: name, runs: this.runs, warmUp: 0 },
      conditions: '',
    };
    const refused = job.isClosed || !job.snapshots.has(this.side) || known !== undefined;
    const saved = await this.send(
      'POST',
      `/jobs/${job.id}/measurements`,
      body,
      refused ? 409 : undefined,
    );
    const made = saved?.measurements.find((one) => one.test === name && one.kind === this.side);
    if (made) job.runs.set(key, { id: made.id, version: 1, runs: this.runs });
    if (!known) return;
    // Runs that are there already are corrected instead, once from the right version and once not.
    const path = `/jobs/${job.id}/measurements/${known.id}`;
    const stale = { ...body, version: known.version + 1 };
    await this.send('PUT', path, stale, 409);
    const isIn = await this.send(
      'PUT',
      path,
      { ...body, version: known.version },
      job.isClosed ? 409 : undefined,
    );
    if (isIn) job.runs.set(key, { ...known, version: known.version + 1, runs: this.runs });
  }
}

class Remove extends Deed {
  toString = () => 'remove runs';
  async act(job: ModelJob) {
    const [key, run] = [...job.runs][0] ?? [];
    const path = `/jobs/${job.id}/measurements/${run?.id ?? 'none'}`;
    const gone = await this.send(
      'DELETE',
      path,
      undefined,
      job.isClosed ? 409 : run ? undefined : 404,
    );
    if (gone && key !== undefined) job.runs.delete(key);
  }
}

class Change extends Deed {
  constructor(
    at: number,
    readonly complaint: string,
    readonly isStale: boolean,
  ) {
    super(at);
  }
  toString = () => `complain “${this.complaint}”${this.isStale ? ', stale' : ''}`;
  async act(job: ModelJob) {
    const version = job.version + (this.isStale ? 1 : 0);
    const saved = await this.send(
      'PATCH',
      `/jobs/${job.id}`,
      { version, complaint: this.complaint },
      job.isClosed || this.isStale ? 409 : undefined,
    );
    if (saved) Object.assign(job, { version: job.version + 1, complaint: this.complaint });
  }
}

class Pass extends Deed {
  toString = () => 'memory test';
  async act(job: ModelJob) {
    const body = {
      ...{ kind: 'before the system starts', minutes: 300, passes: 4, errors: 0 },
      ...{ tool: '', conditions: '' },
    };
    // It belongs to what sits in the machine: what was fitted, or what was found.
    const refused = job.isClosed || !SIDES.some((one) => job.snapshots.has(one));
    const path = `/jobs/${job.id}/memory-tests`;
    if (await this.send('POST', path, body, refused ? 409 : undefined)) job.passes++;
  }
}

class Close extends Deed {
  constructor(
    at: number,
    readonly isStale: boolean,
  ) {
    super(at);
  }
  toString = () => `close${this.isStale ? ', stale' : ''}`;
  async act(job: ModelJob) {
    const version = job.version + (this.isStale ? 1 : 0);
    const isReady = SIDES.every((side) => job.snapshots.has(side));
    const refused = job.isClosed || this.isStale || !isReady;
    const path = `/jobs/${job.id}/close`;
    if (!(await this.send('POST', path, { version }, refused ? 409 : undefined))) return;
    job.version++;
    job.isClosed = true;
  }
}

class Reopen extends Deed {
  toString = () => 'reopen';
  async act(job: ModelJob) {
    const body = { version: job.version };
    const path = `/jobs/${job.id}/reopen`;
    if (!(await this.send('POST', path, body, job.isClosed ? undefined : 409))) return;
    job.version++;
    job.isClosed = false;
  }
}

class Link extends Deed {
  constructor(
    at: number,
    readonly side: Side,
  ) {
    super(at);
  }
  toString = () => `link for ${this.side}`;
  async act(job: ModelJob) {
    const refused = job.isClosed || !job.snapshots.has(this.side);
    const made = await this.send<MadeTicket>(
      'POST',
      `/jobs/${job.id}/tickets`,
      { kind: this.side, power: 'unknown' },
      refused ? 409 : undefined,
    );
    if (made) job.tokens.push({ token: made.token, side: this.side, usedBy: null });
  }
}

let visit = 0;
let machines = 0;
/** One machine may bring thirty results a minute; where a system has one address of its own, all are one. */
const anotherMachine = () =>
  process.platform === 'darwin' ? undefined : `127.0.0.${2 + (machines++ % 250)}`;

class Bring extends Deed {
  constructor(
    at: number,
    readonly which: number,
    readonly isAgain: boolean,
  ) {
    super(at);
  }
  toString = () => `bring by link ${this.which}${this.isAgain ? ', the same again' : ''}`;
  async act(job: ModelJob) {
    const ticket = job.tokens[this.which % Math.max(1, job.tokens.length)];
    if (!ticket) return;
    const own = this.isAgain && ticket.usedBy !== null ? ticket.usedBy : ++visit;
    const answer = await askRaw(Number(new URL(api.server.url).port), '/measure/results', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ token: ticket.token, result: simulated(own) }),
      from: anotherMachine(),
    });
    // The same result again is taken for said, even when the job was closed since.
    const isSaid = ticket.usedBy === own;
    const isTaken = isSaid || (ticket.usedBy === null && !job.isClosed);
    expect([201, 409]).toContain(answer.status);
    expect(answer.status === 201, JSON.stringify(answer.body)).toBe(isTaken);
    if (isSaid || !isTaken) return;
    reached.add('Bring');
    ticket.usedBy = own;
    job.pageResults++;
  }
}

const at = fc.nat(2);
const kind = fc.constantFrom(...KINDS);
const side = fc.constantFrom(...SIDES);
const isStale = fc.integer({ min: 0, max: 4 }).map((one) => one === 0);
const runs = fc.array(fc.integer({ min: 10, max: 40 }), { minLength: 1, maxLength: 4 });
const deeds = [
  fc.constant(new Open()),
  fc.tuple(at, kind, fc.nat(3), isStale).map((all) => new Save(...all)),
  fc.tuple(at, side, fc.nat(2), isStale).map((all) => new Save(...all)),
  fc.tuple(at, side, fc.nat(1), runs).map((all) => new Measure(...all)),
  at.map((one) => new Remove(one)),
  fc
    .tuple(at, fc.constantFrom('Slow', 'Stutters', 'Crashes'), isStale)
    .map((all) => new Change(...all)),
  at.map((one) => new Pass(one)),
  fc.tuple(at, isStale).map((all) => new Close(...all)),
  at.map((one) => new Reopen(one)),
  fc.tuple(at, side).map((all) => new Link(...all)),
  fc.tuple(at, fc.nat(3), fc.boolean()).map((all) => new Bring(...all)),
];

test('jobs obey a plain model whatever is done to them in whatever order', async () => {
  await fc.assert(
    fc.asyncProperty(fc.commands(deeds, { size: 'large', maxCommands: 40 }), async (commands) => {
      const model: Model = { jobs: [] };
      await fc.asyncModelRun(() => ({ model, real: api }), commands);
      // The ledger has a line for every closed job that runs, and for no other.
      const { lines } = await api.ok<Ledger>('GET', '/ledger');
      for (const job of model.jobs) {
        const fitted = job.snapshots.get('as-fitted')?.placement ?? {};
        const isIn = job.isClosed && Object.keys(fitted).length > 0;
        expect(lines.some(({ jobId }) => jobId === job.id)).toBe(isIn);
      }
    }),
    walking(16, 8, 180),
  );
  expect([...reached].sort()).toEqual([
    ...['Bring', 'Change', 'Change refused', 'Close', 'Close refused', 'Link', 'Link refused'],
    ...['Measure', 'Measure refused', 'Pass', 'Pass refused', 'Remove', 'Remove refused'],
    ...['Reopen', 'Reopen refused', 'Save', 'Save refused'],
  ]);
});

test('the bench list counts in the database what a job counts by itself: both say the same is next', async () => {
  const steps = new Set<string | undefined>();
  for (const state of ['open', 'closed']) {
    const { jobs } = await api.ok<{ jobs: JobSummary[] }>('GET', `/jobs?state=${state}&limit=60`);
    for (const { id, next } of jobs) {
      const job = await api.ok('GET', `/jobs/${id}`);
      expect(next ?? undefined, `job ${job.number}`).toEqual(nextStep(jobFacts(job)));
      steps.add(next?.step);
    }
  }
  // Left behind by the test above in every state of the work.
  expect(steps.size).toBeGreaterThan(3);
});
