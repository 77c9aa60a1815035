import type { ChannelId, GibRange, Setting, SlotId } from '../machine/index.ts';
import type {
  Buffering,
  FormFactor,
  Generation,
  MemoryModule,
  TimingName,
} from '../memory/index.ts';
import type { DataRate, Gibibytes, GigabytesPerSecond, Nanoseconds } from '../units/index.ts';

/** A part that takes part in running: a module in a slot, or soldered memory (no slot). */
export interface Fitted {
  readonly module: MemoryModule;
  readonly slotId: SlotId | undefined;
  /** Channels its capacity is spread over, evenly. */
  readonly channels: readonly ChannelId[];
}

/** A slot, or `null` for soldered memory: what a limit or a flag is about, as JSON can carry it. */
export type PartPlace = SlotId | null;

/** What one channel carries. */
export interface ChannelLoad {
  readonly channel: ChannelId;
  readonly capacity: Gibibytes;
  readonly modules: number;
  /** Sum of the ranks on the channel. */
  readonly ranks: number | 'unknown';
}

/** Why a placement cannot run. Each names its slot where one is at fault. */
export type Blocker =
  | { readonly type: 'nothing-fitted' }
  | { readonly type: 'no-such-slot'; readonly slotId: SlotId }
  | {
      readonly type: 'wrong-generation';
      readonly slotId: SlotId;
      readonly generation: Generation;
      readonly accepted: readonly Generation[];
    }
  | { readonly type: 'mixed-generations'; readonly generations: readonly Generation[] }
  | {
      readonly type: 'wrong-form-factor';
      readonly slotId: SlotId;
      readonly formFactor: FormFactor;
      readonly accepted: FormFactor;
    }
  | {
      readonly type: 'wrong-buffering';
      readonly slotId: SlotId;
      readonly buffering: Buffering;
      readonly accepted: readonly Buffering[];
    }
  | { readonly type: 'mixed-buffering'; readonly bufferings: readonly Buffering[] }
  | {
      readonly type: 'voltage';
      readonly slotId: SlotId;
      readonly rails: readonly number[];
      readonly machineRails: readonly number[];
    }
  | { readonly type: 'no-shared-voltage'; readonly machineRails: readonly number[] }
  | { readonly type: 'ecc-required'; readonly slotId: SlotId }
  | { readonly type: 'ecc-refused'; readonly slotId: SlotId }
  | {
      readonly type: 'slot-capacity';
      readonly slotId: SlotId;
      readonly capacity: Gibibytes;
      readonly limit: Gibibytes;
    }
  | { readonly type: 'total-capacity'; readonly capacity: Gibibytes; readonly limit: Gibibytes }
  | { readonly type: 'non-binary'; readonly slotId: SlotId; readonly capacity: Gibibytes }
  | {
      readonly type: 'ranks-per-module';
      readonly slotId: SlotId;
      readonly ranks: number;
      readonly limit: number;
    }
  | {
      readonly type: 'ranks-per-channel';
      readonly channel: ChannelId;
      readonly ranks: number;
      readonly limit: number;
    }
  | { readonly type: 'first-slot-empty'; readonly slotId: SlotId }
  | { readonly type: 'no-standard-rate'; readonly limit: DataRate; readonly generation: Generation }
  | { readonly type: 'no-common-cl'; readonly generation: Generation };

/** The rules that may set the rate. */
export type RungRule =
  | 'slowest-module'
  | 'profile'
  | 'rate-table'
  | 'controller'
  | 'firmware-cap'
  | 'profile-ceiling'
  | 'common-cl';

/** One limit on the rate, whether it binds or not. */
export interface Rung {
  readonly rule: RungRule;
  /** Absent where nothing limits (`none`) or nobody knows (`unknown`). */
  readonly limit: DataRate | 'none' | 'unknown';
  /**
   * `binds`: at the lowest value. `slack`: above it. `warning`: a stated limit the profile goes
   * beyond. `idle`: no limit to speak of.
   */
  readonly role: 'binds' | 'slack' | 'warning' | 'idle';
  /** Modules or soldered parts the rung is about. */
  readonly slotIds: readonly PartPlace[];
  /** The channel and load the rate table was read for. */
  readonly load?: ChannelLoad | undefined;
  /** The rate that would run were this binding rung alone lifted. */
  readonly liftsTo?: DataRate | undefined;
}

/** Capacity that is spread over the same channels. */
export interface Region {
  readonly channels: readonly ChannelId[];
  readonly capacity: Gibibytes;
  readonly peak: GigabytesPerSecond;
}

/** How capacity is laid over channels, under one reading of the uneven-channel trait. */
export interface Layout {
  readonly reading: 'zone' | 'single';
  /** Widest first. */
  readonly regions: readonly Region[];
}

/** Cycles and times at the operating rate. */
export interface RunningTimings {
  /** CL always; the others where every module states them. */
  readonly cycles: Partial<Readonly<Record<TimingName, number>>> & { readonly cl: number };
  readonly firstWord: Nanoseconds;
}

/** Whether memory and controller clocks run in step. */
export type ClockMode = 'in step' | 'halved' | 'unknown';

/** What deserves a word though it does not stop anything. */
export type Flag = { readonly severity: 'caution' | 'note' } & (
  | {
      readonly type: 'uneven-channels';
      readonly trait: 'zone' | 'single' | 'unknown';
      readonly paired: Gibibytes;
      readonly tail: Gibibytes;
    }
  | {
      readonly type: 'one-channel-needless';
      /** The fewest moves that bring another channel into play. */
      readonly moves: readonly { readonly from: SlotId; readonly to: SlotId }[];
    }
  | { readonly type: 'cl-raised'; readonly needed: number; readonly runs: number }
  | { readonly type: 'one-channel'; readonly channel: ChannelId }
  | {
      readonly type: 'rate-unused';
      readonly slotIds: readonly SlotId[];
      readonly rated: DataRate;
      readonly runs: DataRate;
    }
  | {
      readonly type: 'profile-available';
      readonly rate: DataRate;
      readonly support: 'yes' | 'unknown';
    }
  | { readonly type: 'profile-missing'; readonly slotIds: readonly PartPlace[] }
  | { readonly type: 'profiles-unsupported' }
  | {
      readonly type: 'beyond-stated-limit';
      readonly rule: 'rate-table' | 'controller';
      readonly limit: DataRate;
      readonly rate: DataRate;
    }
  | {
      readonly type: 'table-row-missing';
      readonly load: ChannelLoad;
      readonly used: 'next higher row' | 'none';
    }
  | { readonly type: 'ranks-unknown'; readonly slotIds: readonly PartPlace[] }
  | { readonly type: 'ecc-off' }
  | { readonly type: 'ecc-unknown'; readonly slotIds: readonly SlotId[] }
  | { readonly type: 'non-binary-unknown'; readonly slotIds: readonly SlotId[] }
  | {
      readonly type: 'trait-unknown';
      readonly trait:
        | 'controllerLimit'
        | 'firmwareCap'
        | 'requiredFirstSlot'
        | 'profiles'
        | 'maxPerSlot'
        | 'maxTotal';
    }
  | { readonly type: 'fill-order'; readonly expected: readonly SlotId[] }
  | {
      readonly type: 'clock-halved';
      readonly limit: DataRate;
      readonly fabric: boolean | 'unknown';
    }
  | { readonly type: 'os-limit'; readonly installed: Gibibytes; readonly limit: GibRange }
  | { readonly type: 'assumed'; readonly slotIds: readonly PartPlace[] }
  | { readonly type: 'wide-chips'; readonly slotIds: readonly PartPlace[] }
);

/** A placement that runs. */
export interface Running {
  readonly type: 'runs';
  readonly generation: Generation;
  readonly setting: Setting;
  readonly rate: DataRate;
  readonly timings: RunningTimings;
  readonly voltageMv: number;
  readonly installed: Gibibytes;
  readonly usable: GibRange;
  /** Every channel of the machine, empty ones too. */
  readonly loads: readonly ChannelLoad[];
  /** One reading, or two where the uneven-channel trait is unknown. The first is the worse. */
  readonly layouts: readonly [Layout, ...Layout[]];
  /** Capacity all populated channels share, under the worse reading. */
  readonly paired: Gibibytes;
  /** Peak of the widest region, under the worse reading. */
  readonly peak: GigabytesPerSecond;
  readonly clocks: ClockMode;
  readonly rungs: readonly Rung[];
  readonly flags: readonly Flag[];
}

/** A placement that does not run, with every reason. */
export interface Blocked {
  readonly type: 'blocked';
  /** Causes before consequences. */
  readonly blockers: readonly [Blocker, ...Blocker[]];
}

/** What a placement does in a machine. */
export type OperatingPoint = Running | Blocked;
