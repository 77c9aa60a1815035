import { exhausted } from '../units/index.ts';
import type {
  Caution,
  CoverAct,
  Destination,
  Phase,
  PlainStep,
  Task,
  Tool,
  WrongLength,
} from '../fitting/index.ts';
import type { Machine } from '../machine/index.ts';
import { moduleSummary } from '../memory/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { count, figure, gb, list } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

/** Headings of the sheet. */
export const PHASE_WORDS: Readonly<Record<Phase, string>> = {
  prepare: 'Make it safe',
  open: 'Open',
  pull: 'Pull',
  fit: 'Fit',
  close: 'Close',
  start: 'Start',
};

/** The one thing to do, and how: the first is read from two metres. */
export interface TaskWords {
  readonly title: string;
  readonly how: string;
}

const PLAIN_WORDS: Readonly<Record<PlainStep, readonly [string, string]>> = {
  'ask to open': [
    'Ask the customer: may we open it?',
    'No yes is on record. Without one the machine stays shut.',
  ],
  'ask about the seal': [
    'Look for a warranty seal',
    'If there is one, ask the customer before it is broken, and write the answer at intake.',
  ],
  'back up': [
    'Is the customer’s data backed up?',
    'No yes is on record. Ask, or offer to do it, before anything else.',
  ],
  'shut down': [
    'Shut it down fully',
    'Not sleep, not hibernation: a fast start leaves memory in use.',
  ],
  'service mode': [
    'Put it into service mode',
    'As its service manual says, so that the board is without power inside.',
  ],
  'battery out': [
    'Take the battery out',
    'Slide the catches, lift it out, look at it: swollen means stop.',
  ],
  unplug: ['Unplug it', 'Mains first, then every lead. Switch the supply off at the back.'],
  drain: ['Hold the power button for 5 s', 'It empties what is left in the supply.'],
  'cool down': ['Let hot parts cool', 'Heatsinks and drives stay hot for minutes after work.'],
  'ground yourself': [
    'Put on the wrist strap',
    'Clip it to bare metal or the mat; never on carpet. Modules stay in their bag until seated.',
  ],
  'lift the cover': [
    'Lift the cover off',
    'Slowly, and look underneath: a lead may still hold it.',
  ],
  'battery off': [
    'Disconnect the battery',
    'By the connector, with a plastic tool, never by the wires. Do it before touching anything else.',
  ],
  'look along the slots': [
    'Look along the slots',
    'All level, latches home, gold edges hidden evenly from end to end.',
  ],
  'battery on': ['Reconnect the battery', 'Press the connector in evenly until it seats.'],
  'set the cover on': ['Refit the cover', 'Leads first, none pinched, edges flush.'],
  'nothing left over': ['Nothing left over?', 'The tray is empty; every foot and cap is back.'],
  'put away': [
    'Put the pulled modules away',
    'Bagged against static, with the job’s number on the bag.',
  ],
  'plug in': ['Plug it in', 'Mains and every lead that was off.'],
  'first start': [
    'Start it, and leave the power on',
    'The first start may stay dark and restart by itself.',
  ],
};

/** A screw as it is called on the sheet: `screw 3, cross PH1, 8 mm`. */
const screwText = ({ part, number }: CoverAct): string =>
  part.kind === 'fastener'
    ? `${part.captive ? 'captive screw' : 'screw'} ${number}, ${driverText(part)}${part.length === 'unknown' || part.captive ? '' : `, ${figure(part.length)} mm`}`
    : `part ${number}`;

const leadText = ({ part, number }: CoverAct): string =>
  `the ${part.kind === 'cable' ? part.what : 'lead'} (${number})`;

function actWords(act: CoverAct): TaskWords {
  const { part, number } = act;
  const isCaptive = part.kind === 'fastener' && part.captive;
  const covering = part.kind === 'fastener' ? part.under : 'cover';
  switch (act.act) {
    case 'uncover':
      return { title: `Lift the ${covering} off screw ${number}`, how: 'Keep it by its place.' };
    case 'undo':
      return isCaptive
        ? {
            title: `Loosen ${screwText(act)}`,
            how: 'It stays in the cover: turn until it is free.',
          }
        : { title: `Take out ${screwText(act)}`, how: 'Lay it on its own place in the tray.' };
    case 'pry':
      return {
        title: `Open clip ${number}`,
        how: 'Plastic tool, flat, a little at a time; twist rather than lever.',
      };
    case 'unplug':
      return { title: `Unplug ${leadText(act)}`, how: 'By its connector, never by the wires.' };
    case 'plug':
      return {
        title: `Plug in ${leadText(act)}`,
        how: 'Push it straight in until it seats; a ribbon cable goes in level.',
      };
    case 'press':
      return { title: `Press clip ${number} shut`, how: 'Until it clicks.' };
    case 'drive':
      return isCaptive
        ? { title: `Tighten ${screwText(act)}`, how: 'Hand-tight.' }
        : { title: `Put back ${screwText(act)}`, how: 'Start it by hand, then hand-tight.' };
    case 'cover':
      return { title: `Put the ${covering} back on screw ${number}`, how: 'Press it home.' };
    default:
      return exhausted(act.act);
  }
}

const DRIVE_WORDS = {
  cross: 'cross',
  star: 'star',
  hex: 'hex',
  slot: 'slot',
  'three-lobed': 'three-lobed',
  thumb: 'by hand',
} as const;

/** `cross PH1`. */
export function driverText({
  drive,
  size,
}: {
  readonly drive: keyof typeof DRIVE_WORDS;
  readonly size: string;
}): string {
  return size === '' ? DRIVE_WORDS[drive] : `${DRIVE_WORDS[drive]} ${size}`;
}

/** `6 mm`, `length not known`. */
export const lengthText = (length: number | 'unknown'): string =>
  length === 'unknown' ? 'Length not known' : `${figure(length)} mm`;

/** How a module of a form factor goes in and out. */
const SEATING: Readonly<Record<Machine['formFactor'], { in: string; out: string }>> = {
  DIMM: {
    in: 'Open the latches. Turn it until its notch meets the ridge in the slot; never force. Press both ends evenly, straight down, until each side clicks.',
    out: 'Hold the module, press the latches outward, lift it straight out by its edges.',
  },
  SODIMM: {
    in: 'Notch to the ridge, at about 30°, all the way in until the gold is hidden evenly. Then press it down flat until both arms click.',
    out: 'Hold the module, spread both arms with the fingertips: it springs up to about 30°. Pull it out along that slant.',
  },
  compression: {
    in: 'Wipe nothing: the contact pads stay untouched. Lay it flat on its pegs. Screws finger-tight in the order numbered on it (none numbered: middle first, then crosswise), then to the torque in the service manual, in the same order.',
    out: 'Loosen the screws a turn each, in the reverse of their order, then all the way. Lift it straight up; do not touch the pads.',
  },
  soldered: { in: '', out: '' },
};

const DESTINATION_WORDS: Readonly<Record<Destination, string>> = {
  aside: 'on the mat: it goes into another slot',
  drawer: 'into the shop’s drawer',
  customer: 'into the customer’s bag',
};

/** `8 GB DDR4-3200 …`. */
export const moduleText = (module: MemoryModule): string =>
  `${gb(module.capacity)} ${moduleSummary(module)}`;

/** A step in words. */
export function taskWords(task: Task, machine: Machine, nameOf: NameOf): TaskWords {
  const seating = SEATING[machine.formFactor];
  switch (task.type) {
    case 'plain': {
      const [title, how] = PLAIN_WORDS[task.step];
      return { title, how: task.step === 'lift the cover' ? `${accessText(machine)}${how}` : how };
    }
    case 'cover':
      return actWords(task.act);
    case 'pull':
      return {
        title: `Pull ${gb(task.module.capacity)} out of ${nameOf(task.slotId)}`,
        how: `${seating.out} It goes ${DESTINATION_WORDS[task.to]}.`,
      };
    case 'seat':
      return {
        title: `Seat ${gb(task.module.capacity)} in ${nameOf(task.slotId)}`,
        how: seating.in,
      };
    case 'reseat':
      return {
        title: `Reseat ${nameOf(task.slotId)}`,
        how: `Out: ${seating.out} Clean its edge and the slot. In: ${seating.in}`,
      };
    case 'set':
      return task.setting === 'profile'
        ? {
            title: 'Switch the overclock profile on',
            how: 'In the firmware, by its name; save, and start again.',
          }
        : {
            title: 'Go back to the standard setting',
            how: 'In the firmware: profile off; save, and start again.',
          };
    default:
      return exhausted(task);
  }
}

/** What is known of the way in, where no cover map says it better. */
function accessText({ access }: Machine): string {
  const { cover, screws, hiddenFasteners, memoryAt } = access;
  const parts = [
    ...(cover === 'unknown' ? [] : [`held by ${cover}`]),
    ...(screws === 'unknown' || screws === 0 ? [] : [`${count(screws, 'screw')}`]),
    ...(hiddenFasteners === 'yes' ? ['some under feet or caps'] : []),
    ...(memoryAt === 'unknown' ? [] : [`memory ${memoryAt}`]),
  ];
  if (parts.length === 0) return 'How it opens is in its service manual. ';
  const text = list(parts);
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}. `;
}

/** A tool to lay ready. */
export function toolText(tool: Tool): string {
  switch (tool.type) {
    case 'driver':
      return `Driver, ${driverText(tool)}`;
    case 'any driver':
      return 'Drivers: the cover’s screws are not on record';
    case 'pry tool':
      return 'Plastic pry tool, never metal';
    case 'strap':
      return 'Wrist strap and mat';
    case 'tray':
      return 'Tray with a place for each screw';
    case 'torque driver':
      return 'Torque driver, set as the manual says';
    default:
      return exhausted(tool);
  }
}

/** A caution: what to mind, and when to stop. */
export const CAUTION_WORDS: Readonly<
  Record<Caution, { readonly text: string; readonly stops?: string }>
> = {
  'swollen pack': {
    text: 'Look at the battery before and after the cover comes off.',
    stops: 'Swollen, soft, hot or smelling: stop, isolate it, hand it over under local rules.',
  },
  'lithium pack': { text: 'Never pry, puncture, bend or heat the battery.' },
  'display supply': {
    text: 'The display’s supply holds dangerous voltage long after unplugging.',
    stops: 'If the way to the memory leads past it uncovered: stop, licensed hands only.',
  },
  supply: { text: 'Never open a power supply.' },
  mains: {
    text: 'Unplugged before the cover comes off, and until it is on again.',
    stops: 'Damaged lead, burnt smell, tripped breaker: stop, licensed hands only.',
  },
  static: { text: 'Strap or mat; modules by their edges only.' },
  'hot parts': { text: 'Heatsinks, drives and coils burn: let them cool.' },
  'sharp edges': { text: 'Pressed metal edges cut: mind your hands.' },
  seal: { text: 'A seal is broken only with the customer’s consent on record.' },
  data: { text: 'Data first: backed up, or the customer says otherwise.' },
  training: { text: 'Do not cut power during the first start, however long it stays dark.' },
  profile: {
    text: 'A profile is overclocking: more voltage and heat, shorter life, and it may void a warranty.',
  },
};

/** A screw in the wrong hole. */
export function explainLength({ type, wanted, taken }: WrongLength): Explanation {
  return type === 'too long'
    ? {
        title: `Stop: ${taken} mm is too long here`,
        why: `This hole takes ${wanted} mm. A longer screw can go through the board or dent the cover.`,
        mend: `Take it out and use the ${wanted} mm one.`,
      }
    : {
        title: `${taken} mm is too short here`,
        why: `This hole takes ${wanted} mm. A shorter screw strips the thread, and its own hole will get a longer one.`,
        mend: `Use the ${wanted} mm one.`,
      };
}
