import { z } from 'zod';
import { machine as machineSchema } from '#contract/machine';
import type { Machine } from '#core/machine';

/** A machine as a file: what it is, which version of the form, and the machine. */
const machineFile = z.strictObject({
  format: z.literal('tembrix-machine'),
  version: z.literal(1),
  machine: machineSchema,
});

/** The text of a machine's file. */
export function machineToFile(machine: Machine): string {
  return `${JSON.stringify({ format: 'tembrix-machine', version: 1, machine }, null, 2)}\n`;
}

/** A file's name for a machine. */
export function machineFileName({ name }: Machine): string {
  return `${
    name
      .toLowerCase()
      .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
      .replaceAll(/^-|-$/g, '') || 'machine'
  }.machine.json`;
}

/** The machine of a file, or what is wrong with it, by place. */
export function machineFromFile(text: string): { machine?: Machine; faults: readonly string[] } {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return { faults: ['The file is no complete JSON. Export it again.'] };
  }
  const checked = machineFile.safeParse(parsed);
  if (checked.success) return { machine: checked.data.machine, faults: [] };
  const isOther = checked.error.issues.some(({ path }) => path.length < 2);
  if (isOther)
    return { faults: ['The file is no machine of this library. Export one here to see its form.'] };
  return {
    faults: checked.error.issues.map(
      ({ path, message }) => `${path.slice(1).map(String).join('.')}: ${message}`,
    ),
  };
}
