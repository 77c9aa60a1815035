import type { ChannelId, Machine, SlotId } from './machine.ts';

/** The widest machine described here: two processors of eight slots each have sixteen. */
export const SLOT_LIMIT = 16;

/** A contradiction in a machine's description, with the field it stands in. */
export type MachineFault =
  | { readonly type: 'no-place-for-memory'; readonly path: 'slots' }
  | {
      readonly type: 'too-many-slots';
      readonly path: 'slots';
      readonly count: number;
      readonly limit: number;
    }
  | { readonly type: 'no-channels'; readonly path: 'channels' }
  | { readonly type: 'channel-twice'; readonly path: 'channels'; readonly channel: ChannelId }
  | { readonly type: 'name-twice'; readonly path: string; readonly name: string }
  | { readonly type: 'no-such-channel'; readonly path: string; readonly channel: ChannelId }
  | { readonly type: 'no-such-slot'; readonly path: string; readonly slotId: SlotId }
  | {
      readonly type: 'fill-order-count';
      readonly path: string;
      readonly modules: number;
      readonly slots: number;
    }
  | {
      readonly type: 'range-reversed';
      readonly path: string;
      readonly low: number;
      readonly high: number;
    }
  | {
      readonly type: 'total-below-module';
      readonly path: 'maxTotal';
      readonly total: number;
      readonly least: number;
    }
  | {
      readonly type: 'rate-table-hole';
      readonly path: string;
      readonly modules: number;
      readonly ranks: number;
    }
  | {
      readonly type: 'rate-table-twice' | 'rate-table-rises';
      readonly path: string;
      readonly modules: number;
      readonly ranks: number;
    };

/** Contradictions in a machine, all of them; an empty list means it can be computed with. */
export function findMachineFaults(machine: Machine): MachineFault[] {
  return [
    ...placeFaults(machine),
    ...channelFaults(machine),
    ...slotReferenceFaults(machine),
    ...figureFaults(machine),
    ...rateTableFaults(machine),
  ];
}

function placeFaults({ slots, soldered, channels }: Machine): MachineFault[] {
  const faults: MachineFault[] = [];
  if (slots.length === 0 && soldered.length === 0)
    faults.push({ type: 'no-place-for-memory', path: 'slots' });
  if (slots.length > SLOT_LIMIT)
    faults.push({ type: 'too-many-slots', path: 'slots', count: slots.length, limit: SLOT_LIMIT });
  if (channels.length === 0) faults.push({ type: 'no-channels', path: 'channels' });
  const repeated = channels.find((channel, at) => channels.indexOf(channel) !== at);
  if (repeated !== undefined)
    faults.push({ type: 'channel-twice', path: 'channels', channel: repeated });
  slots.forEach(({ printedName, id }, at) => {
    const twin = slots.findIndex((slot) => slot.printedName === printedName || slot.id === id);
    if (twin !== at)
      faults.push({ type: 'name-twice', path: `slots.${at}.printedName`, name: printedName });
  });
  return faults;
}

function channelFaults({ slots, soldered, channels }: Machine): MachineFault[] {
  const missing = (used: readonly ChannelId[], path: string): MachineFault[] => {
    const channel = used.length === 0 ? '' : used.find((id) => !channels.includes(id));
    return channel === undefined ? [] : [{ type: 'no-such-channel', path, channel }];
  };
  return [
    ...slots.flatMap((slot, at) => missing(slot.channels, `slots.${at}.channels`)),
    ...soldered.flatMap(({ channel }, at) => missing([channel], `soldered.${at}.channel`)),
  ];
}

function slotReferenceFaults({ slots, fillOrder, requiredFirstSlot }: Machine): MachineFault[] {
  const known = new Set(slots.map(({ id }) => id));
  const faults: MachineFault[] = [];
  if (fillOrder !== 'unknown')
    fillOrder.forEach((used, at) => {
      const path = `fillOrder.${at}`;
      if (new Set(used).size !== at + 1)
        faults.push({ type: 'fill-order-count', path, modules: at + 1, slots: new Set(used).size });
      for (const slotId of used)
        if (!known.has(slotId)) faults.push({ type: 'no-such-slot', path, slotId });
    });
  const named = requiredFirstSlot !== 'none' && requiredFirstSlot !== 'unknown';
  if (named && !known.has(requiredFirstSlot))
    faults.push({ type: 'no-such-slot', path: 'requiredFirstSlot', slotId: requiredFirstSlot });
  return faults;
}

/**
 * A table states a rate for every load up to the ones it names: modules counted from 1 without a
 * gap, no load twice, and never a higher rate for more modules of as many ranks each.
 */
function rateTableFaults({ rateTable }: Machine): MachineFault[] {
  const faults: MachineFault[] = [];
  rateTable.forEach(({ modulesPerChannel: modules, ranksPerChannel: ranks, rate }, at) => {
    const path = `rateTable.${at}`;
    const has = (count: number) =>
      rateTable.some(({ modulesPerChannel }) => modulesPerChannel === count);
    const isTwice = rateTable.some(
      (other, before) =>
        before < at && other.modulesPerChannel === modules && other.ranksPerChannel === ranks,
    );
    if (isTwice) faults.push({ type: 'rate-table-twice', path, modules, ranks });
    if (modules > 1 && !has(modules - 1))
      faults.push({ type: 'rate-table-hole', path, modules: modules - 1, ranks });
    const lighter = rateTable.find(
      (other) =>
        other.modulesPerChannel < modules && other.ranksPerChannel <= ranks && other.rate < rate,
    );
    if (lighter && ranks >= modules)
      faults.push({ type: 'rate-table-rises', path, modules, ranks });
  });
  return faults;
}

function figureFaults({ graphicsCarveOut, osLimit, maxTotal, soldered }: Machine): MachineFault[] {
  const faults: MachineFault[] = [];
  const ranges = { graphicsCarveOut, ...(osLimit === 'none' ? {} : { osLimit }) };
  for (const [path, { low, high }] of Object.entries(ranges))
    if (low > high) faults.push({ type: 'range-reversed', path, low, high });
  // A total of 0.1 GB, or less than is soldered on, cannot hold what the machine starts with.
  const least = Math.max(0.125, ...soldered.map(({ part }) => part.capacity));
  if (maxTotal !== 'unknown' && maxTotal < least)
    faults.push({ type: 'total-below-module', path: 'maxTotal', total: maxTotal, least });
  return faults;
}
