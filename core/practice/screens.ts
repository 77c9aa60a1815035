import { readInventory, writeSmbios } from '../inventory/index.ts';
import type { Running } from '../operating-point/index.ts';
import { statusOf } from './running.ts';
import type { FirmwareScreen, TableRow } from './seen.ts';
import type { World } from './world.ts';

/** The firmware’s page of a machine that is up. */
export function firmwareScreen(world: World): FirmwareScreen | undefined {
  const status = statusOf(world);
  if (status.type !== 'up') return undefined;
  const { machine, firmware } = world.exercise;
  const { point, seen } = status;
  const { support } = machine.profiles;
  return {
    total: point.installed,
    rate: Math.round(firmware.showsClock ? point.rate / 2 : point.rate),
    rows: [
      ...machine.slots.map(({ id, printedName }) => ({
        name: printedName,
        capacity: seen[id]?.capacity,
      })),
      ...firmware.phantoms.map((name) => ({ name, capacity: undefined })),
    ],
    setting: world.setting,
    offersProfile: support !== 'no' && Object.values(seen).every((module) => module?.profile),
    reserved: reservedOf(point),
  };
}

const reservedOf = ({ installed, usable, flags }: Running): number =>
  flags.some(({ type }) => type === 'os-limit') ? 0 : installed - usable.low;

/** The page as it is typed off a screen, line by line. */
export const screenText = ({ rows, rate }: FirmwareScreen): string =>
  rows
    .map(({ name, capacity }) =>
      capacity === undefined ? `${name} empty` : `${name}: ${capacity * 1024} MB ${rate} MHz`,
    )
    .join('\n');

/** The firmware’s table as a system hands it out, with what it claims of slots there are not. */
export function firmwareTable(world: World): Uint8Array | undefined {
  const status = statusOf(world);
  if (status.type !== 'up') return undefined;
  const { machine, firmware } = world.exercise;
  const nameOf = (id: string) => machine.slots.find((slot) => slot.id === id)?.printedName ?? id;
  return writeSmbios(machine, status.seen, {
    ...{ configuredRate: status.point.rate, printsClock: firmware.showsClock },
    ...{ locatorOf: nameOf, phantoms: firmware.phantoms },
  });
}

/** That table as our own reader takes it: what the machine claims of its slots. */
export function tableRows(world: World): TableRow[] | undefined {
  const table = firmwareTable(world);
  if (!table) return undefined;
  return readInventory(table).devices.map(({ locator, state, capacity, partNumber, ...more }) => ({
    name: locator ?? '',
    capacity: state === 'module' ? capacity : undefined,
    partNumber,
    rate: more.configuredShown,
  }));
}
