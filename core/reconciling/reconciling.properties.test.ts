import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SLIPS, expectSound } from '../../test/support/soundWords.ts';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import {
  explainAdvice,
  explainGuess,
  explainQuestion,
  needSentence,
  slotNames,
  workingSetText,
} from '../explaining/index.ts';
import { readInventory, writeCim, writeSmbios, writeSpd } from '../inventory/index.ts';
import type { SmbiosStyle } from '../inventory/index.ts';
import type { Machine, Placement } from '../machine/index.ts';
import { writeLabel } from '../memory/index.ts';
import { adviseNeed, workingSet } from '../need/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import { machineFromInventory, matchLocators, readDocument, reconcile } from './index.ts';
import type { DocumentKind, Evidence } from './index.ts';
import { often } from '../../test/support/draws.ts';

/** Modules whose organisation is known, as EEPROMs state it and labels can print it. */
const known = anyDdr4
  .filter(({ ranks, chipWidth }) => ranks !== 'unknown' && chipWidth !== 'unknown')
  .map(({ profile: _profile, partNumber: _part, ...module }) => module)
  .filter((module) => writeSpd(module).ok);
const scene = fc.record({ machine: anyFourChannelMachine, placement: anyPlacement(known) });
const styles = fc.record<SmbiosStyle>({
  printsClock: fc.boolean(),
  mapsAddresses: fc.boolean(),
  interleaves: fc.boolean(),
});

const filled = (placement: Placement) =>
  Object.entries(placement).flatMap(([id, module]) => (module ? [[id, module] as const] : []));

function evidenceOf(
  kind: DocumentKind,
  name: string,
  content: Uint8Array | string,
  slotIds?: readonly string[],
): Evidence {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  return readDocument({ id: `${kind} ${name}`, kind, name, bytes, ...(slotIds ? { slotIds } : {}) })
    .evidence;
}

/** Everything a bench could have of a machine, all of it true. */
function allEvidence(machine: Machine, placement: Placement, style: SmbiosStyle): Evidence[] {
  return [
    evidenceOf('file', 'table.dmp', writeSmbios(machine, placement, style)),
    evidenceOf('file', 'memory.json', writeCim(machine, placement)),
    ...filled(placement).flatMap(([id, module]) => {
      const spd = writeSpd(module);
      return [
        ...(spd.ok ? [evidenceOf('file', `${id}.bin`, spd.value)] : []),
        evidenceOf('sticker', id, writeLabel(module), [id]),
      ];
    }),
  ];
}

describe('what is written reads back', () => {
  test('an SMBIOS dump: every place, filled or empty, with size, ranks, rate and kind', () => {
    fc.assert(
      fc.property(scene, styles, ({ machine, placement }, style) => {
        const { devices, findings, board } = readInventory(writeSmbios(machine, placement, style));
        expect(findings).toEqual([]);
        expect(board?.places).toBe(machine.slots.length);
        expect(devices.map(({ locator }) => locator)).toEqual(
          machine.slots.map(({ printedName }) => printedName),
        );
        devices.forEach((device, at) => {
          const module = placement[machine.slots[at]?.id ?? ''];
          expect(device.state).toBe(module ? 'module' : 'empty');
          if (!module) return;
          const { capacity, generation, formFactor, buffering, ecc, ranks } = module;
          expect(device).toMatchObject({ capacity, generation, formFactor, buffering, ecc, ranks });
          expect(device.ratedShown).toBe(Math.round(module.rate / (style.printsClock ? 2 : 1)));
        });
      }),
      { seed: 11, numRuns: often(50) },
    );
  });

  test('a CIM list: every filled place', () => {
    fc.assert(
      fc.property(scene, ({ machine, placement }) => {
        const { devices, findings } = readInventory(
          new TextEncoder().encode(writeCim(machine, placement)),
        );
        expect(findings).toEqual([]);
        const inOrder = machine.slots.flatMap(({ id, printedName }) => {
          const module = placement[id];
          return module ? [[printedName, module.capacity, module.rate]] : [];
        });
        expect(devices.map((one) => [one.locator, one.capacity, one.ratedShown])).toEqual(inOrder);
      }),
      { seed: 12, numRuns: often(33) },
    );
  });

  test('a machine made of its dump has the same slots, channels and modules', () => {
    fc.assert(
      fc.property(scene, ({ machine, placement }) => {
        const picture = machineFromInventory(readInventory(writeSmbios(machine, placement)));
        expect(
          picture?.machine.slots.map(({ printedName, channels }) => [printedName, channels]),
        ).toEqual(machine.slots.map(({ printedName, channels }) => [printedName, channels]));
        const sizes = (one: Placement | undefined, of: Machine | undefined) =>
          of?.slots.map(({ id }) => one?.[id]?.capacity);
        expect(sizes(picture?.placement, picture?.machine)).toEqual(sizes(placement, machine));
        for (const guess of picture?.guesses ?? []) expectSound(explainGuess(guess));
      }),
      { seed: 13, numRuns: often(33) },
    );
  });
});

describe('reconciling', () => {
  test('true evidence never conflicts, whatever its manner, and gives what is fitted', () => {
    fc.assert(
      fc.property(scene, styles, ({ machine, placement }, style) => {
        const evidence = allEvidence(machine, placement, style);
        const { questions, placement: concluded } = reconcile({ machine, evidence });
        expect(questions).toEqual([]);
        expect(Object.keys(concluded).sort()).toEqual(
          filled(placement)
            .map(([id]) => id)
            .sort(),
        );
        for (const [id, module] of filled(placement)) {
          const { capacity, ranks, rate, chipWidth } = module;
          expect(concluded[id]).toMatchObject({ capacity, ranks, rate, chipWidth });
        }
      }),
      { seed: 14, numRuns: often(20) },
    );
  });

  test('the order evidence comes in changes nothing', () => {
    fc.assert(
      fc.property(
        scene,
        styles,
        fc.infiniteStream(fc.nat()),
        ({ machine, placement }, style, keys) => {
          const evidence = allEvidence(machine, placement, style);
          const shuffled = evidence
            .map((one) => [keys.next().value as number, one] as const)
            .sort(([a], [b]) => a - b)
            .map(([, one]) => one);
          expect(reconcile({ machine, evidence: shuffled }).placement).toEqual(
            reconcile({ machine, evidence }).placement,
          );
        },
      ),
      { seed: 15, numRuns: often(13) },
    );
  });

  test('one wrong sticker is always noticed, at its slot, and a decision always ends it', () => {
    fc.assert(
      fc.property(scene, known, ({ machine, placement }, other) => {
        const [first] = filled(placement);
        if (!first || first[1].capacity === other.capacity) return;
        const [slotId] = first;
        const lie = evidenceOf('sticker', 'lie', writeLabel(other), [slotId]);
        const evidence = [...allEvidence(machine, placement, {}), lie];
        const { questions } = reconcile({ machine, evidence });
        const conflicts = questions.flatMap((one) => (one.type === 'conflict' ? [one] : []));
        expect(conflicts.some(({ row }) => row.field === 'capacity')).toBe(true);
        expect(new Set(conflicts.map((one) => one.slotId))).toEqual(new Set([slotId]));
        for (const one of questions) expectSound(explainQuestion(one, slotNames(machine)));
        const decisions = conflicts.map(({ row }) => ({
          ...{ slotId, field: row.field, evidenceId: lie.id, by: 'Ottoline' },
          at: '2026-11-25T00:00:00Z',
        }));
        const after = reconcile({ machine, evidence, decisions });
        expect(after.questions.filter(({ type }) => type === 'conflict')).toEqual([]);
        expect(after.placement[slotId]?.capacity).toBe(other.capacity);
      }),
      { seed: 16, numRuns: often(20) },
    );
  });
});

test('no two locators ever share a slot, and a name of its own is always found', () => {
  const text = fc.oneof(
    fc.constantFrom(
      'A1',
      'DIMM_B2',
      'ChannelC-DIMM0',
      'BANK 3',
      'DIMM 0',
      'P1 CHANNEL D',
      '',
      '???',
    ),
    fc.string({ maxLength: 12 }),
  );
  fc.assert(
    fc.property(
      anyFourChannelMachine,
      fc.array(fc.record({ locator: text, bankLocator: text }), { maxLength: 12 }),
      (machine, names) => {
        const matches = matchLocators(machine, names);
        const slots = matches.flatMap(({ slotId }) => slotId ?? []);
        expect(new Set(slots).size).toBe(slots.length);
        expect(matches).toHaveLength(names.length);
        for (const { slotId, confidence } of matches)
          expect(confidence > 0).toBe(slotId !== undefined);
        const own = matchLocators(
          machine,
          machine.slots.map(({ printedName }) => ({ locator: printedName })),
        );
        expect(own.map(({ slotId }) => slotId)).toEqual(machine.slots.map(({ id }) => id));
      },
    ),
    { seed: 17, numRuns: often(66) },
  );
});

test('whatever the need, its answers and sentences are sound', () => {
  const figure = fc.double({ min: 0, max: 300, noNaN: true });
  const input = fc.record({
    idle: fc.constant({ low: 2, high: 4 }),
    activities: fc.array(
      figure.map((high) => ({ name: 'x', low: high / 2, high })),
      { minLength: 1 },
    ),
    peak: fc.option(fc.record({ gib: figure, paging: fc.boolean() })),
    drive: fc.constantFrom('solid state' as const, 'spinning' as const, 'unknown' as const),
    graphicsShort: fc.boolean(),
  });
  fc.assert(
    fc.property(scene, input, ({ machine, placement }, stated) => {
      const work = workingSet(stated);
      const point = operatingPoint(machine, placement, 'standard');
      if (!work || point.type !== 'runs') return;
      const advice = adviseNeed(machine, stated, work, 0.25, point);
      // Exactly one of these is true of any machine that runs.
      expect(advice.filter(({ type }) => ['short', 'tight', 'enough'].includes(type))).toHaveLength(
        1,
      );
      for (const one of advice) expectSound(explainAdvice(one));
      for (const words of [needSentence(work, point.usable.low), workingSetText(work)])
        expect(words).not.toMatch(SLIPS);
    }),
    { seed: 18, numRuns: often(66) },
  );
});
