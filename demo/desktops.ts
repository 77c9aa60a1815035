import { plainMachine } from '#core/machine';
import type { Machine } from '#core/machine';
import { dataRate, gib } from '#core/units';
import { graphics, noGraphics, quietTraits } from './parts.ts';

export const gameBoard: Machine = {
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

export const counterDesktop: Machine = {
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

export const cadBoard: Machine = {
  ...plainMachine({
    ...{ name: 'Keelson X5 CAD desktop', kind: 'desktop', generation: 'DDR5', formFactor: 'DIMM' },
    ...{ channels: 2, slotsPerChannel: 2 },
  }),
  fillOrder: [['a2'], ['a2', 'b2'], ['a2', 'b2', 'a1'], ['a1', 'a2', 'b1', 'b2']],
  requiredFirstSlot: 'none',
  verifiedParts: ['KB-16U56', 'KB-32U56'],
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

export const stackingStation: Machine = {
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

export const archiveDesktop: Machine = {
  ...plainMachine({
    ...{ name: 'Lantern A3 scanning desktop', kind: 'desktop', generation: 'DDR4' },
    ...{ formFactor: 'DIMM', channels: 2, slotsPerChannel: 2 },
  }),
  ...quietTraits,
  slots: [
    { id: 'a1', printedName: 'MEM1', colour: 'black', channels: ['A'] },
    { id: 'a2', printedName: 'MEM2', colour: 'black', channels: ['A'] },
    { id: 'b1', printedName: 'MEM3', colour: 'white', channels: ['B'] },
    { id: 'b2', printedName: 'MEM4', colour: 'white', channels: ['B'] },
  ],
  fillOrder: [['b2'], ['b2', 'a2'], ['b2', 'a2', 'b1'], ['a1', 'a2', 'b1', 'b2']],
  maxPerSlot: gib(16),
  maxTotal: gib(64),
  controllerLimit: dataRate(2666),
  unevenChannels: 'zone',
  ecc: 'ignored',
  nonBinary: 'no',
  graphicsCarveOut: graphics,
};

export const radioDesktop: Machine = {
  ...plainMachine({
    ...{ name: 'Harbour log desktop H1', kind: 'desktop', generation: 'DDR2' },
    ...{ formFactor: 'DIMM', channels: 2, slotsPerChannel: 2 },
  }),
  ...quietTraits,
  slots: [
    { id: 'a1', printedName: 'DIMM1', colour: 'yellow', channels: ['A'] },
    { id: 'a2', printedName: 'DIMM2', colour: 'red', channels: ['A'] },
    { id: 'b1', printedName: 'DIMM3', colour: 'yellow', channels: ['B'] },
    { id: 'b2', printedName: 'DIMM4', colour: 'red', channels: ['B'] },
  ],
  maxPerSlot: gib(2),
  maxTotal: gib(8),
  controllerLimit: dataRate(800),
  unevenChannels: 'single',
  ecc: 'refused',
  nonBinary: 'no',
  graphicsCarveOut: { low: gib(0.125), high: gib(0.25) },
  osLimit: { low: gib(3), high: gib(3.5) },
};

export const schoolDesktop: Machine = {
  ...plainMachine({
    ...{ name: 'Reading room desktop R7', kind: 'desktop', generation: 'DDR4' },
    ...{ formFactor: 'DIMM', channels: 2, slotsPerChannel: 1 },
  }),
  ...quietTraits,
  slots: [
    { id: 'a1', printedName: 'DIMM A', colour: 'blue', channels: ['A'] },
    { id: 'b1', printedName: 'DIMM B', colour: 'blue', channels: ['B'] },
  ],
  maxPerSlot: gib(32),
  maxTotal: gib(64),
  controllerLimit: dataRate(2666),
  unevenChannels: 'zone',
  ecc: 'ignored',
  nonBinary: 'no',
  graphicsCarveOut: graphics,
};

export const ferrySmall: Machine = {
  ...plainMachine({
    ...{ name: 'Timetable small desktop T2', kind: 'small desktop', generation: 'DDR4' },
    ...{ formFactor: 'SODIMM', channels: 2, slotsPerChannel: 1 },
  }),
  ...quietTraits,
  slots: [
    { id: 'so1', printedName: 'SO left', channels: ['A'] },
    { id: 'so2', printedName: 'SO right', channels: ['B'] },
  ],
  maxPerSlot: gib(16),
  maxTotal: gib(32),
  controllerLimit: dataRate(2400),
  unevenChannels: 'zone',
  ecc: 'ignored',
  nonBinary: 'no',
  graphicsCarveOut: graphics,
};

/** Stacked sockets: the upper ones hide the lower, and colours go across channels. */
export const patternSmall: Machine = {
  ...plainMachine({
    ...{ name: 'Stitch S5 pattern small desktop', kind: 'small desktop', generation: 'DDR4' },
    ...{ formFactor: 'SODIMM', channels: 2, slotsPerChannel: 2 },
  }),
  ...quietTraits,
  slots: [
    { id: 'a1', printedName: 'lower left', colour: 'grey', channels: ['A'] },
    { id: 'a2', printedName: 'upper left', colour: 'black', channels: ['A'] },
    { id: 'b1', printedName: 'lower right', colour: 'black', channels: ['B'] },
    { id: 'b2', printedName: 'upper right', colour: 'grey', channels: ['B'] },
  ],
  access: {
    ...{ cover: 'screws', screws: 4, hiddenFasteners: 'no', battery: 'none' },
    memoryAt: 'two sockets above two, beside the fan',
  },
  requiredFirstSlot: 'a1',
  fillOrder: [['a1'], ['a1', 'b1'], ['a1', 'b1', 'a2'], ['a1', 'a2', 'b1', 'b2']],
  maxPerSlot: gib(32),
  maxTotal: gib(128),
  controllerLimit: dataRate(3200),
  rateTable: [
    { modulesPerChannel: 1, ranksPerChannel: 1, rate: dataRate(3200) },
    { modulesPerChannel: 1, ranksPerChannel: 2, rate: dataRate(3200) },
    { modulesPerChannel: 2, ranksPerChannel: 2, rate: dataRate(2933) },
    { modulesPerChannel: 2, ranksPerChannel: 4, rate: dataRate(2666) },
  ],
  unevenChannels: 'zone',
  ecc: 'ignored',
  nonBinary: 'no',
  graphicsCarveOut: { low: gib(0.5), high: gib(2) },
};
