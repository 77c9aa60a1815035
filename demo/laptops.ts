import { plainMachine } from '#core/machine';
import type { Machine } from '#core/machine';
import { dataRate, gib } from '#core/units';
import { graphics, quietTraits, soldered } from './parts.ts';

export const cueLaptop: Machine = {
  ...plainMachine({
    ...{ name: 'Marlo 14 cue laptop', kind: 'laptop', generation: 'DDR5', formFactor: 'SODIMM' },
    ...{ channels: 2, slotsPerChannel: 1 },
  }),
  slots: [{ id: 'so1', printedName: 'SO-1', channels: ['B'] }],
  access: {
    ...{ cover: 'screws and clips', screws: 9, hiddenFasteners: 'yes' },
    ...{ battery: 'connector inside', memoryAt: 'under a metal shield left of the fan' },
  },
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

export const tideLaptop: Machine = {
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

export const choirLaptop: Machine = {
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

export const chessLaptop: Machine = {
  ...plainMachine({
    ...{ name: 'Gambit 13 old laptop', kind: 'laptop', generation: 'DDR3' },
    ...{ formFactor: 'SODIMM', channels: 2, slotsPerChannel: 1 },
  }),
  ...quietTraits,
  slots: [
    { id: 'so1', printedName: 'SODIMM 1', channels: ['A'] },
    { id: 'so2', printedName: 'SODIMM 2', channels: ['B'] },
  ],
  voltagesMv: [1350],
  maxPerSlot: gib(8),
  maxTotal: gib(16),
  controllerLimit: dataRate(1600),
  unevenChannels: 'zone',
  ecc: 'refused',
  nonBinary: 'no',
  graphicsCarveOut: graphics,
};

export const droneLaptop: Machine = {
  ...plainMachine({
    ...{ name: 'Kittiwake 16 mapping laptop', kind: 'laptop', generation: 'DDR5' },
    ...{ formFactor: 'compression', channels: 2, slotsPerChannel: 0 },
  }),
  ...quietTraits,
  slots: [{ id: 'c1', printedName: 'CM1', channels: ['A', 'B'] }],
  maxPerSlot: gib(128),
  maxTotal: gib(128),
  controllerLimit: dataRate(5600),
  nonBinary: 'yes',
  ecc: 'ignored',
  graphicsCarveOut: graphics,
};
