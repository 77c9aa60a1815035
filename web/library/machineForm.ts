import { machine as machineSchema } from '#contract/machine';
import { explainFinding } from '#core/explaining';
import type { Machine, MachineKind } from '#core/machine';
import { readLabel, writeLabel } from '#core/memory';
import type { FormFactor, MemoryModule } from '#core/memory';

import { orderSteps } from './boardForm.ts';

/** A machine as it is typed: text throughout, blank for what is not known. */
export interface MachineForm {
  name: string;
  kind: MachineKind;
  formFactor: FormFactor;
  generations: string;
  bufferings: string;
  channels: string;
  channelBits: string;
  voltages: string;
  slots: {
    id: string;
    printedName: string;
    colour: string;
    channels: string;
    maxCapacity: string;
  }[];
  soldered: { channel: string; label: string }[];
  fillOrder: string;
  requiredFirstSlot: string;
  maxPerSlot: string;
  maxTotal: string;
  maxRanksPerModule: string;
  maxRanksPerChannel: string;
  controllerLimit: string;
  firmwareCap: string;
  rateTable: string;
  ecc: Machine['ecc'];
  nonBinary: Machine['nonBinary'];
  unevenChannels: Machine['unevenChannels'];
  profileSupport: Machine['profiles']['support'];
  profileCeiling: string;
  syncLimit: string;
  fabricClock: 'yes' | 'no' | 'unknown';
  graphics: string;
  osLimit: string;
  verifiedParts: string;
  maximaFrom: Machine['maximaFrom'];
  cover: Machine['access']['cover'];
  screws: string;
  hiddenFasteners: 'yes' | 'no' | 'unknown';
  battery: Machine['access']['battery'];
  memoryAt: string;
}

const figureText = (value: number | string) => (value === 'unknown' ? '' : String(value));
const rangeText = ({ low, high }: { low: number; high: number }) =>
  low === high ? `${low}` : `${low} - ${high}`;

/** The form of a machine. */
export function formFromMachine(machine: Machine): MachineForm {
  const nameOf = (id: string) => machine.slots.find((slot) => slot.id === id)?.printedName ?? id;
  const { fabricClock } = machine.sync;
  return {
    name: machine.name,
    kind: machine.kind,
    formFactor: machine.formFactor,
    generations: machine.generations.join(', '),
    bufferings: machine.bufferings.join(', '),
    channels: machine.channels.join(' '),
    channelBits: String(machine.channelBits),
    voltages: machine.voltagesMv.map((mv) => mv / 1000).join(', '),
    slots: machine.slots.map(({ id, printedName, colour = '', channels, maxCapacity }) => ({
      ...{ id, printedName, colour, maxCapacity: maxCapacity ? String(maxCapacity) : '' },
      channels: channels.join(' '),
    })),
    soldered: machine.soldered.map(({ channel, part }) => ({ channel, label: writeLabel(part) })),
    fillOrder:
      machine.fillOrder === 'unknown'
        ? ''
        : machine.fillOrder.map((ids) => ids.map(nameOf).join(', ')).join('; '),
    requiredFirstSlot: machine.requiredFirstSlot,
    maxPerSlot: figureText(machine.maxPerSlot),
    maxTotal: figureText(machine.maxTotal),
    maxRanksPerModule: figureText(machine.maxRanksPerModule),
    maxRanksPerChannel: figureText(machine.maxRanksPerChannel),
    controllerLimit: figureText(machine.controllerLimit),
    firmwareCap: figureText(machine.firmwareCap),
    rateTable: machine.rateTable
      .map(
        ({ modulesPerChannel, ranksPerChannel, rate }) =>
          `${modulesPerChannel} ${ranksPerChannel} ${rate}`,
      )
      .join('\n'),
    ecc: machine.ecc,
    nonBinary: machine.nonBinary,
    unevenChannels: machine.unevenChannels,
    profileSupport: machine.profiles.support,
    profileCeiling: figureText(machine.profiles.ceiling),
    syncLimit: figureText(machine.sync.limit),
    fabricClock: fabricClock === 'unknown' ? 'unknown' : fabricClock ? 'yes' : 'no',
    graphics: rangeText(machine.graphicsCarveOut),
    osLimit: machine.osLimit === 'none' ? 'none' : rangeText(machine.osLimit),
    verifiedParts: machine.verifiedParts === 'unknown' ? '' : machine.verifiedParts.join('\n'),
    maximaFrom: machine.maximaFrom,
    cover: machine.access.cover,
    screws: figureText(machine.access.screws),
    hiddenFasteners: machine.access.hiddenFasteners,
    battery: machine.access.battery,
    memoryAt: figureText(machine.access.memoryAt),
  };
}

/** What is wrong with a form, by field (`slots.2.printedName`). */
export type FormErrors = Record<string, string>;

const words = (text: string) => text.split(/[\s,;]+/).filter(Boolean);

/**
 * The machine a form describes.
 *
 * @param kept - the machine the form was made from; soldered parts whose label was left alone keep
 *   what a label cannot say
 */
export function machineFromForm(
  form: MachineForm,
  kept?: Machine,
): { machine?: Machine; errors: FormErrors } {
  const errors: FormErrors = {};
  const number = (field: string, text: string): number => {
    const value = Number(text.trim().replace(',', '.'));
    if (text.trim() === '' || !Number.isFinite(value))
      errors[field] ??= `“${text}” is not a number.`;
    return Number.isFinite(value) ? value : 0;
  };
  const orUnknown = (field: keyof MachineForm): number | 'unknown' => {
    const text = form[field] as string;
    return text.trim() === '' ? 'unknown' : number(field, text);
  };
  const orNone = (field: keyof MachineForm): number | 'none' | 'unknown' =>
    (form[field] as string).trim().toLowerCase() === 'none' ? 'none' : orUnknown(field);
  const range = (field: 'graphics' | 'osLimit') => {
    const [low = '', high = low] = form[field].split(/\s*(?:-|–|to)\s*/);
    return { low: number(field, low), high: number(field, high) };
  };
  const slotId = (field: string, name: string): string => {
    const slot = form.slots.find(
      ({ printedName }) => printedName.toLowerCase() === name.toLowerCase(),
    );
    if (!slot) errors[field] ??= `No slot is called “${name}”.`;
    return slot?.id ?? name;
  };
  const soldered = form.soldered.map(({ channel, label }, at) => {
    const before = kept?.soldered.find(({ part }) => writeLabel(part) === label);
    const reading = readLabel(label);
    const finding = reading.findings.find(({ severity }) => severity === 'error');
    if (!before && finding) {
      const { title, mend = '' } = explainFinding(finding);
      errors[`soldered.${at}.label`] = `${title}. ${mend}`;
    }
    const part =
      before?.part ?? (reading.module && { ...reading.module, formFactor: 'soldered' as const });
    return { channel: channel.trim().toUpperCase(), part: part as MemoryModule };
  });
  const rateTable = form.rateTable
    .split('\n')
    .filter((row) => row.trim() !== '')
    .map((row) => {
      const [modulesPerChannel, ranksPerChannel, rate] = (row.match(/\d+/g) ?? []).map(Number);
      if (rate === undefined)
        errors.rateTable ??= `“${row.trim()}”: give modules, ranks and MT/s, as in 2 4 2666.`;
      return { modulesPerChannel, ranksPerChannel, rate };
    });
  const described = {
    name: form.name,
    kind: form.kind,
    generations: form.generations
      .toUpperCase()
      .split(/[\s,;]+/)
      .filter(Boolean),
    formFactor: form.formFactor,
    bufferings: words(form.bufferings.toLowerCase()),
    ecc: form.ecc,
    channels: words(form.channels.toUpperCase()),
    channelBits: number('channelBits', form.channelBits),
    slots: form.slots.map(({ id, printedName, colour, channels, maxCapacity }, at) => ({
      ...{ id, printedName, channels: words(channels.toUpperCase()) },
      ...(colour.trim() ? { colour } : {}),
      ...(maxCapacity?.trim()
        ? { maxCapacity: number(`slots.${at}.maxCapacity`, maxCapacity) }
        : {}),
    })),
    soldered,
    fillOrder:
      form.fillOrder.trim() === ''
        ? 'unknown'
        : orderSteps(
            form.fillOrder,
            form.slots.map(({ printedName }) => printedName),
          ).map((names) => names.map((name) => slotId('fillOrder', name))),
    requiredFirstSlot: form.requiredFirstSlot,
    maxPerSlot: orUnknown('maxPerSlot'),
    maxTotal: orUnknown('maxTotal'),
    maxRanksPerModule: orUnknown('maxRanksPerModule'),
    maxRanksPerChannel: orUnknown('maxRanksPerChannel'),
    voltagesMv: form.voltages
      .split(/[\s;]+|,\s+|,(?=\d+[.])/)
      .filter(Boolean)
      .map((text) => Math.round(number('voltages', text) * 1000)),
    nonBinary: form.nonBinary,
    rateTable,
    controllerLimit: orUnknown('controllerLimit'),
    firmwareCap: orNone('firmwareCap'),
    profiles: { support: form.profileSupport, ceiling: orNone('profileCeiling') },
    unevenChannels: form.unevenChannels,
    sync: {
      limit: orNone('syncLimit'),
      fabricClock: form.fabricClock === 'unknown' ? 'unknown' : form.fabricClock === 'yes',
    },
    graphicsCarveOut: range('graphics'),
    osLimit: form.osLimit.trim().toLowerCase() === 'none' ? 'none' : range('osLimit'),
    verifiedParts:
      form.verifiedParts.trim() === ''
        ? 'unknown'
        : form.verifiedParts
            .split('\n')
            .map((part) => part.trim())
            .filter(Boolean),
    maximaFrom: form.maximaFrom,
    access: {
      cover: form.cover,
      screws: orUnknown('screws'),
      hiddenFasteners: form.hiddenFasteners,
      battery: form.battery,
      memoryAt: form.memoryAt.trim() || 'unknown',
    },
  };
  if (Object.keys(errors).length > 0) return { errors };
  const checked = machineSchema.safeParse(described);
  if (checked.success) return { machine: checked.data, errors };
  for (const { path, message } of checked.error.issues) errors[fieldOf(path)] ??= message;
  return { errors };
}

/** The form's field for a path in the machine. */
function fieldOf(path: readonly PropertyKey[]): string {
  const [head, at, tail] = path.map(String);
  const renamed: Readonly<Record<string, string>> = {
    voltagesMv: 'voltages',
    graphicsCarveOut: 'graphics',
    sync: 'syncLimit',
    profiles: 'profileCeiling',
    access: path[1] === undefined ? 'cover' : String(path[1]),
  };
  if (head === 'slots' && at !== undefined) return `slots.${at}.${tail ?? 'printedName'}`;
  if (head === 'soldered' && at !== undefined)
    return `soldered.${at}.${tail === 'part' ? 'label' : (tail ?? 'channel')}`;
  return renamed[head ?? ''] ?? head ?? 'name';
}
