import type { z } from 'zod';
import type { inventoryInput, inventoryOutput } from '#contract/inventory';
import {
  explainGuess,
  explainInventoryFinding,
  explainPoint,
  explainQuestion,
  placeText,
  pointText,
  slotNames,
} from '#core/explaining';
import { readInventory, systemOf, unpackCollected } from '#core/inventory';
import { judgeMatch } from '#core/matching';
import { operatingPoint } from '#core/operating-point';
import { pictureOfFiles } from '#core/reconciling';

type Output = z.input<typeof inventoryOutput>;

/** As JSON: the contract's types are plain, without the core's brands and readonly. */
const plain = <T>(value: unknown): T => JSON.parse(JSON.stringify(value)) as T;

/** A file as it was sent. */
type Sent = z.output<typeof inventoryInput>['files'][number];

/** Reads one file as it was sent; of a collected file its parts as well. */
const readOne = ({ name, base64 }: Sent) =>
  unpackCollected({ name, bytes: Buffer.from(base64, 'base64') }).map((file) => ({
    name: file.name,
    reading: readInventory(file.bytes),
  }));

/** Reads files of one machine, each for itself and all together; nothing is stored. */
export function readInventoryFiles(files: readonly Sent[]): Output {
  const read = files.flatMap(readOne);
  const picture = pictureOfFiles(read);
  return {
    files: read.map(({ name, reading }) => ({
      name,
      ...plain<Omit<Output['files'][number], 'name' | 'findings'>>({
        ...reading,
        ...{ findings: undefined, collected: undefined },
        ...(reading.collected ? { system: systemOf(reading.collected) } : {}),
      }),
      findings: reading.findings.map((finding) => ({
        ...explainInventoryFinding(finding),
        type: finding.type,
        severity: finding.severity,
        place: placeText(finding.place),
      })),
    })),
    ...(picture ? { picture: pictureInWords(picture) } : {}),
  };
}

function pictureInWords({
  machine,
  placement,
  guesses,
  reconciled,
}: NonNullable<ReturnType<typeof pictureOfFiles>>): NonNullable<Output['picture']> {
  const nameOf = slotNames(machine);
  const point = operatingPoint(machine, placement, 'standard');
  const stance = { need: undefined, capacityFirst: false, memoryTestPassed: false };
  return {
    machine: plain(machine),
    placement: plain(placement),
    guesses: guesses.map(explainGuess),
    questions: reconciled.questions.map((question) => explainQuestion(question, nameOf)),
    headline: pointText(point),
    ...(point.type === 'runs'
      ? { grade: judgeMatch(machine, placement, 'standard', stance).grade }
      : {}),
    explanations: explainPoint(point, nameOf),
  };
}
