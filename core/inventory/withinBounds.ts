import { COMMAND_TIMES, MODULE_BOUNDS } from '../memory/index.ts';
import type {
  CommandTimesPs,
  MemoryModule,
  OverclockProfile,
  TimesPs,
  TimingCycles,
} from '../memory/index.ts';
import { RATE_RANGE } from '../units/index.ts';
import type { FindingPlace, InventoryFinding } from './findings.ts';
import type { BoardFacts, DeviceClaim, InventoryReading } from './inventory.ts';

const B = MODULE_BOUNDS;
/** What screens and tables may show, as rate or as clock. */
const SPEED = { min: 1, max: RATE_RANGE.max, unit: ' MT/s' };
/** Names of machines and boards, characters. */
const BOARD_NAME = 120;

/**
 * A reading with nothing in it that no module or board has: more than 8 ranks, 32 TB, clocks by the
 * hundred. What lies outside is left out, overlong text is cut, and each is said.
 */
export function withinBounds(reading: InventoryReading): InventoryReading {
  const findings: InventoryFinding[] = [...reading.findings];
  const part = reading.kind === 'spd' ? 'image' : 'item';
  const devices = reading.devices.map((claim, at) =>
    boundClaim(claim, new Bounding({ part, number: at + 1 }, findings)),
  );
  const board =
    reading.board && boundBoard(reading.board, new Bounding({ part: 'file' }, findings));
  return { ...reading, devices, ...(board ? { board } : {}), findings };
}

/** Checks fields one by one and says what it takes out. */
class Bounding {
  readonly #place: FindingPlace;
  readonly #out: InventoryFinding[];

  constructor(place: FindingPlace, out: InventoryFinding[]) {
    this.#place = place;
    this.#out = out;
  }

  /** The figure, if it lies within. */
  figure<T extends number>(
    field: string,
    value: T | undefined,
    { min = 1, max, unit = '' }: { min?: number; max: number; unit?: string },
  ): T | undefined {
    if (value === undefined || (value >= min && value <= max)) return value;
    this.#say(field, `${value}${unit}`, `${min} to ${max}${unit}`);
    return undefined;
  }

  /** The text, cut where it is too long for any label. */
  text(field: string, value: string | undefined, most: number = B.text): string | undefined {
    if (value === undefined || value.length <= most) return value;
    this.#say(field, `${value.length} characters long`, `${most} at most, so it was cut`);
    return value.slice(0, most).trim() || undefined;
  }

  #say(field: string, text: string, wanted: string): void {
    const place = { ...this.#place, field };
    this.#out.push({ type: 'wrong-value', severity: 'caution', place, text, wanted });
  }
}

function boundClaim(claim: DeviceClaim, within: Bounding): DeviceClaim {
  const { module } = claim;
  return {
    ...claim,
    locator: within.text('locator', claim.locator),
    bankLocator: within.text('bank', claim.bankLocator),
    makerName: within.text('maker', claim.makerName),
    partNumber: within.text('part number', claim.partNumber),
    serial: within.text('serial number', claim.serial),
    capacity: within.figure('size', claim.capacity, {
      ...{ min: 1 / 1024, max: B.capacity, unit: ' GB' },
    }),
    ranks: within.figure('ranks', claim.ranks, { max: B.ranks }),
    ratedShown: within.figure('rated speed', claim.ratedShown, SPEED),
    configuredShown: within.figure('configured speed', claim.configuredShown, SPEED),
    voltageMv: within.figure('voltage', claim.voltageMv, { ...B.millivolts, unit: ' mV' }),
    ...(module ? { module: boundModule(module, within) } : {}),
  };
}

function boundModule(module: MemoryModule, within: Bounding): MemoryModule | undefined {
  const timings = boundCycles(module.timings, '', within);
  if (!timings) return undefined;
  const { timesPs: times, commandTimesPs: between, supportedCls: cls, profile } = module;
  const time = (name: keyof TimesPs) =>
    within.figure(`${name} time`, times?.[name], { max: B.timePs, unit: ' ps' });
  const listed = cls?.filter((cl) => cl >= 1 && cl <= B.cycles).slice(0, B.supportedCls);
  return {
    ...module,
    timings,
    partNumber: module.partNumber?.slice(0, B.text).trim() || undefined,
    ...(times
      ? { timesPs: { cl: time('cl'), trcd: time('trcd'), trp: time('trp'), tras: time('tras') } }
      : {}),
    ...(between ? { commandTimesPs: boundCommandTimes(between, within) } : {}),
    supportedCls: listed && listed.length > 0 ? listed : undefined,
    ...(profile ? { profile: boundProfile(profile, within) } : {}),
  };
}

function boundCommandTimes(times: CommandTimesPs, within: Bounding): CommandTimesPs {
  return Object.fromEntries(
    COMMAND_TIMES.flatMap((name) => {
      const ps = within.figure(`${name} time`, times[name], { max: B.timePs, unit: ' ps' });
      return ps === undefined ? [] : [[name, ps]];
    }),
  );
}

function boundProfile(profile: OverclockProfile, within: Bounding): OverclockProfile | undefined {
  const timings = boundCycles(profile.timings, 'profile ', within);
  const voltageMv = within.figure('profile voltage', profile.voltageMv, {
    ...{ ...B.millivolts, unit: ' mV' },
  });
  return timings && voltageMv !== undefined ? { ...profile, timings, voltageMv } : undefined;
}

/** `undefined` where the CL itself is absurd: without it there are no timings. */
function boundCycles(
  { cl, trcd, trp, tras }: TimingCycles,
  of: string,
  within: Bounding,
): TimingCycles | undefined {
  const first = within.figure(`${of}CL`, cl, { max: B.cycles });
  if (first === undefined) return undefined;
  return {
    cl: first,
    trcd: within.figure(`${of}tRCD`, trcd, { max: B.cycles }),
    trp: within.figure(`${of}tRP`, trp, { max: B.cycles }),
    tras: within.figure(`${of}tRAS`, tras, { max: B.rasCycles }),
  };
}

function boundBoard(board: BoardFacts, within: Bounding): BoardFacts {
  return {
    ...board,
    systemMaker: within.text('system maker', board.systemMaker, BOARD_NAME),
    systemName: within.text('system name', board.systemName, BOARD_NAME),
    systemVersion: within.text('system version', board.systemVersion, BOARD_NAME),
    boardName: within.text('board name', board.boardName, BOARD_NAME),
    maxTotal: within.figure('maximum', board.maxTotal, {
      ...{ min: 1 / 1024, max: B.capacity, unit: ' GB' },
    }),
  };
}
