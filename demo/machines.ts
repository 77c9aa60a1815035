import { plainMachine } from '#core/machine';
import type { Machine } from '#core/machine';
import { readLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { dataRate, gib } from '#core/units';

/** The module of a label that must suffice. */
export function moduleOf(label: string, more: Partial<MemoryModule> = {}): MemoryModule {
  const { module } = readLabel(label);
  if (!module) throw new Error(`expected a sufficient label, received ${label}`);
  return { ...module, ...more };
}

const soldered = (label: string, channel: string) => ({
  channel,
  part: { ...moduleOf(label), formFactor: 'soldered' as const },
});

const noGraphics = { low: gib(0), high: gib(0) };
const graphics = { low: gib(0.25), high: gib(0.5) };

const gameBoard: Machine = {
  ...plainMachine({
    ...{ name: 'Skerry B4 game desktop', kind: 'desktop', generation: 'DDR4', formFactor: 'DIMM' },
    ...{ channels: 2, slotsPerChannel: 2 },
  }),
  slots: [
    { id: 'a1', printedName: 'DIMM_A1', colour: 'black', channels: ['A'] },
    { id: 'a2', printedName: 'DIMM_A2', colour: 'grey', channels: ['A'] },
    { id: 'b1', printedName: 'DIMM_B1', colour: 'black', channels: ['B'] },
    { id: 'b2', printedName: 'DIMM_B2', colour: 'grey', channels: ['B'] },
  ],
  fillOrder: [['a2'], ['a2', 'b2'], ['a2', 'b2', 'a1'], ['a1', 'a2', 'b1', 'b2']],
  requiredFirstSlot: 'none',
  maxPerSlot: gib(32),
  maxTotal: gib(128),
  controllerLimit: dataRate(3200),
  firmwareCap: 'none',
  profiles: { support: 'yes', ceiling: dataRate(4400) },
  unevenChannels: 'zone',
  nonBinary: 'no',
  ecc: 'ignored',
  sync: { limit: dataRate(3733), fabricClock: true },
  graphicsCarveOut: noGraphics,
};

const cueLaptop: Machine = {
  ...plainMachine({
    ...{ name: 'Marlo 14 cue laptop', kind: 'laptop', generation: 'DDR5', formFactor: 'SODIMM' },
    ...{ channels: 2, slotsPerChannel: 1 },
  }),
  slots: [{ id: 'so1', printedName: 'SO-1', channels: ['B'] }],
  soldered: [soldered('12GB 1Rx16 DDR5-5600 CL46', 'A')],
  requiredFirstSlot: 'none',
  maxPerSlot: 'unknown',
  controllerLimit: dataRate(5600),
  firmwareCap: 'none',
  profiles: { support: 'no', ceiling: 'none' },
  unevenChannels: 'zone',
  sync: { limit: 'none', fabricClock: false },
  graphicsCarveOut: graphics,
};

const counterDesktop: Machine = {
  ...plainMachine({
    ...{
      name: 'Parcel counter desktop P2',
      kind: 'desktop',
      generation: 'DDR4',
      formFactor: 'DIMM',
    },
    ...{ channels: 2, slotsPerChannel: 2 },
  }),
  controllerLimit: dataRate(2666),
  firmwareCap: 'none',
  requiredFirstSlot: 'none',
  maxPerSlot: gib(16),
  maxTotal: gib(64),
  ecc: 'ignored',
  nonBinary: 'no',
  profiles: { support: 'no', ceiling: 'none' },
  sync: { limit: 'none', fabricClock: false },
  graphicsCarveOut: graphics,
};

const cadBoard: Machine = {
  ...plainMachine({
    ...{ name: 'Keelson X5 CAD desktop', kind: 'desktop', generation: 'DDR5', formFactor: 'DIMM' },
    ...{ channels: 2, slotsPerChannel: 2 },
  }),
  fillOrder: [['a2'], ['a2', 'b2'], ['a2', 'b2', 'a1'], ['a1', 'a2', 'b1', 'b2']],
  requiredFirstSlot: 'none',
  maxPerSlot: gib(48),
  maxTotal: gib(192),
  controllerLimit: dataRate(5600),
  rateTable: [
    { modulesPerChannel: 1, ranksPerChannel: 1, rate: dataRate(5600) },
    { modulesPerChannel: 1, ranksPerChannel: 2, rate: dataRate(5600) },
    { modulesPerChannel: 2, ranksPerChannel: 2, rate: dataRate(4000) },
    { modulesPerChannel: 2, ranksPerChannel: 4, rate: dataRate(3600) },
  ],
  firmwareCap: 'none',
  profiles: { support: 'yes', ceiling: dataRate(6400) },
  unevenChannels: 'zone',
  nonBinary: 'yes',
  ecc: 'works',
  sync: { limit: 'none', fabricClock: false },
};

const tideLaptop: Machine = {
  ...plainMachine({
    ...{ name: 'Ebb 13 slim laptop', kind: 'laptop', generation: 'LPDDR5', formFactor: 'SODIMM' },
    ...{ channels: 2, slotsPerChannel: 0 },
  }),
  soldered: [soldered('8GB LPDDR5-6400 CL17 x16', 'A'), soldered('8GB LPDDR5-6400 CL17 x16', 'B')],
  controllerLimit: dataRate(6400),
  firmwareCap: 'none',
  profiles: { support: 'no', ceiling: 'none' },
  graphicsCarveOut: graphics,
};

const stackingStation: Machine = {
  ...plainMachine({
    ...{ name: 'Kelp W8 microscope-stacking workstation', kind: 'workstation', generation: 'DDR4' },
    ...{ formFactor: 'DIMM', channels: 4, slotsPerChannel: 2 },
  }),
  bufferings: ['registered'],
  ecc: 'required',
  requiredFirstSlot: 'a1',
  fillOrder: [
    ['a1'],
    ['a1', 'b1'],
    ['a1', 'b1', 'c1'],
    ['a1', 'b1', 'c1', 'd1'],
    ['a1', 'b1', 'c1', 'd1', 'a2'],
    ['a1', 'b1', 'c1', 'd1', 'a2', 'b2'],
    ['a1', 'b1', 'c1', 'd1', 'a2', 'b2', 'c2'],
    ['a1', 'b1', 'c1', 'd1', 'a2', 'b2', 'c2', 'd2'],
  ],
  maxPerSlot: gib(64),
  maxTotal: gib(512),
  maxRanksPerChannel: 8,
  controllerLimit: dataRate(2933),
  rateTable: [
    { modulesPerChannel: 1, ranksPerChannel: 1, rate: dataRate(2933) },
    { modulesPerChannel: 1, ranksPerChannel: 2, rate: dataRate(2933) },
    { modulesPerChannel: 2, ranksPerChannel: 2, rate: dataRate(2666) },
    { modulesPerChannel: 2, ranksPerChannel: 4, rate: dataRate(2400) },
  ],
  firmwareCap: 'none',
  profiles: { support: 'no', ceiling: 'none' },
  unevenChannels: 'zone',
  nonBinary: 'no',
  sync: { limit: 'none', fabricClock: false },
};

const choirLaptop: Machine = {
  ...plainMachine({
    ...{
      name: 'Tenor 15 recording laptop',
      kind: 'laptop',
      generation: 'DDR4',
      formFactor: 'SODIMM',
    },
    ...{ channels: 2, slotsPerChannel: 1 },
  }),
  slots: [
    { id: 'so1', printedName: 'CN8', channels: ['A'] },
    { id: 'so2', printedName: 'CN9', channels: ['B'] },
  ],
  requiredFirstSlot: 'none',
  maxPerSlot: gib(32),
  maxTotal: gib(64),
  controllerLimit: dataRate(2666),
  firmwareCap: 'none',
  profiles: { support: 'no', ceiling: 'none' },
  unevenChannels: 'zone',
  nonBinary: 'no',
  ecc: 'ignored',
  sync: { limit: 'none', fabricClock: false },
  graphicsCarveOut: graphics,
};

/** Machines of the demo world, all invented. */
export const MACHINES = {
  gameBoard,
  cueLaptop,
  counterDesktop,
  cadBoard,
  tideLaptop,
  stackingStation,
  choirLaptop,
} as const;
