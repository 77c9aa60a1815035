import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { plainMachine } from '#core/machine';
import { anyModule } from '../test/support/arbitraries.ts';
import { desktop, labelled } from '../test/support/builders.ts';
import { machine } from './machine.ts';
import { memoryModule } from './memory.ts';
import { openApi } from './openApi.ts';
import { jobTerms, measurementInput, newJob } from './records.ts';
import { routes } from './routes.ts';
import type { Route } from './routes.ts';

const wire = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** Paths and messages of what a schema refuses. */
function refusals(
  schema: { safeParse: (value: unknown) => { success: boolean; error?: { issues: unknown } } },
  value: unknown,
) {
  const { error } = schema.safeParse(value);
  const issues = (error?.issues ?? []) as { path: PropertyKey[]; message: string }[];
  return issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
}

test('every module the core can describe crosses the wire unchanged', () => {
  fc.assert(
    fc.property(anyModule, (any) => {
      expect(memoryModule.parse(wire(any))).toEqual(any);
    }),
  );
});

test.each([
  ['DDR4 desktop', desktop()],
  ['eight slots', desktop({}, 4, 2)],
  [
    'all unknown',
    plainMachine({
      ...{ name: 'x', kind: 'laptop', generation: 'DDR5', formFactor: 'SODIMM' },
      ...{ channels: 2, slotsPerChannel: 1 },
    }),
  ],
] as const)('a machine crosses the wire unchanged: %s', (_name, any) => {
  expect(machine.parse(wire(any))).toEqual(any);
});

describe('modules', () => {
  test.each([
    [{ capacity: 13 }, /^capacity: No module has this size/],
    [{ capacity: -8 }, /^capacity: A size is 0 GB or more/],
    [{ rate: 5 }, /^rate: A rate is 100 MT\/s or more/],
    [{ rate: 'fast' }, /^rate: Enter a rate/],
    [{ ranks: 0 }, /^ranks: /],
    [{ chipWidth: 5 }, /^chipWidth: /],
    [{ voltagesMv: [] }, /^voltagesMv: /],
    [{ partNumber: 'x'.repeat(61) }, /^partNumber: Shorten the part number: 60/],
    [{ timings: { cl: 0 } }, /^timings\.cl: /],
    [{ surprise: 1 }, /surprise/],
  ])('%o is refused at its place', (change, message) => {
    expect(refusals(memoryModule, { ...module, ...change })[0]).toMatch(message);
  });
});

describe('machines', () => {
  test.each([
    [{ name: '   ' }, /^name: Enter the name of the machine/],
    [{ generations: [] }, /^generations: /],
    [{ channels: ['AA'] }, /^channels\.0: A channel is one letter/],
    [{ slots: [{ id: 'none', printedName: 'A1', channels: ['A'] }] }, /^slots\.0\.id: /],
    [{ channelBits: 8 }, /^channelBits: /],
    [{ maxPerSlot: 'lots' }, /^maxPerSlot: /],
    [{ requiredFirstSlot: 'zz' }, /^requiredFirstSlot: A slot is named that is not there/],
    [{ slots: [], soldered: [] }, /^slots: No slots and no soldered memory/],
    [{ osLimit: { low: 4, high: 3 } }, /^osLimit: 4 GB to 3 GB runs backwards/],
    [
      { soldered: [{ channel: 'A', part: { ...module, capacity: 13 } }] },
      /^soldered\.0\.part\.capacity: /,
    ],
  ])('%o is refused at its place', (change, message) => {
    expect(refusals(machine, { ...desktop(), ...change })[0]).toMatch(message);
  });

  test('all contradictions are reported at once', () => {
    const wrong = { ...desktop(), fillOrder: [['zz']], graphicsCarveOut: { low: 2, high: 1 } };
    expect(refusals(machine, wrong)).toHaveLength(2);
  });
});

describe('jobs and runs', () => {
  const runs = {
    kind: 'as-found',
    metric: 'bandwidth',
    test: 'copy',
    runs: [14],
    warmUp: 0,
    conditions: '',
  };

  test.each([
    [jobTerms, { need: -1 }, /^need: /],
    [jobTerms, { need: 5000 }, /^need: A need is 4096 GB or less/],
    [jobTerms, { margin: -0.1 }, /^margin: A margin is 0 % or more/],
    [jobTerms, { margin: 4 }, /^margin: A margin is 300 % or less/],
    [jobTerms, { school: 'harsh' }, /^school: /],
    [jobTerms, { complaint: '' }, /^complaint: Enter the complaint/],
    [measurementInput, { ...runs, runs: [] }, /^runs: No runs/],
    [measurementInput, { ...runs, runs: [0] }, /^runs: 0 cannot be a run/],
    [measurementInput, { ...runs, warmUp: 1 }, /^runs: Nothing is left after the warm-up/],
    [measurementInput, { ...runs, test: ' ' }, /^test: Enter the name of the test/],
    [measurementInput, { ...runs, metric: 'smell' }, /^metric: /],
    [newJob, { customer: { name: '', contact: '' }, machineId: 'm', complaint: 'c' }, /^customer/],
    [newJob, { customer: { id: 'c' }, machineId: '', complaint: 'c' }, /^machineId: /],
  ] as const)('%# is refused at its place', (schema, value, message) => {
    const whole = schema === jobTerms ? { ...value } : value;
    expect(refusals(schema === jobTerms ? jobTerms.partial() : schema, whole)[0]).toMatch(message);
  });

  test('names of any script pass, trimmed', () => {
    const job = {
      customer: { name: '  Ærø 🐧 島  ', contact: '' },
      machineId: 'm',
      complaint: 'Çok yavaş',
    };
    expect(newJob.parse(job).customer).toEqual({ name: 'Ærø 🐧 島', contact: '' });
  });
});

describe('the description of the API', () => {
  const { paths, openapi } = openApi() as {
    openapi: string;
    paths: Record<
      string,
      Record<
        string,
        { operationId: string; parameters: { name: string; in: string }[]; responses: object }
      >
    >;
  };

  test('is OpenAPI 3.1 and names every route once', () => {
    expect(openapi).toBe('3.1.0');
    const names = Object.values(paths).flatMap((methods) =>
      Object.values(methods).map(({ operationId }) => operationId),
    );
    expect(names.sort()).toEqual(Object.keys(routes).sort());
  });

  test.each(Object.entries<Route>(routes))(
    '%s declares every parameter of its path, and problems',
    (name, route) => {
      const operation = paths[`/api${route.path}`]?.[route.method];
      expect(operation?.operationId).toBe(name);
      const inPath =
        operation?.parameters.filter((one) => one.in === 'path').map((one) => one.name) ?? [];
      expect(inPath.sort()).toEqual(
        [...route.path.matchAll(/\{(\w+)\}/g)].map(([, found]) => found).sort(),
      );
      expect(Object.keys(operation?.responses ?? {})).toEqual([String(route.status), 'default']);
    },
  );
});
