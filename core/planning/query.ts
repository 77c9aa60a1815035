import type { Machine, Placement, Setting, SlotId } from '../machine/index.ts';
import type { Grade, School } from '../matching/index.ts';
import type { MemoryModule } from '../memory/index.ts';

/** Money in whole minor units (cents, øre, pence) of the shop's currency. */
export type Minor = number;

/** Something a supplier sells: one module, or a sealed pack of several. */
export interface Offer {
  readonly id: string;
  readonly module: MemoryModule;
  /** Modules in the pack; 1 = sold singly. Packs are bought whole. */
  readonly units: number;
  /** Price of the whole pack; an offer without one is never planned with. */
  readonly price: Minor | 'unknown';
  /** Packs that can be had; `unknown` counts as enough. */
  readonly stock: number | 'unknown';
  /** Proven in this very machine by the shop, so it counts as listed. */
  readonly verified: boolean;
}

/** What is known of a used module's health. Only `tested` and `untested` ones are planned with. */
export const DRAWER_STATES = ['tested', 'untested', 'suspect', 'faulty'] as const;
/** See {@link DRAWER_STATES}. */
export type DrawerState = (typeof DRAWER_STATES)[number];

/** A used module in the shop's drawer. */
export interface DrawerModule {
  readonly id: string;
  readonly module: MemoryModule;
  readonly state: DrawerState;
  /** What the shop charges for it. */
  readonly price: Minor;
}

/** Everything a search depends on. */
export interface PlanQuery {
  readonly machine: Machine;
  /** Modules as found. */
  readonly fitted: Placement;
  /** GiB the work needs with its margin, graphics carve-out not included; absent = not stated. */
  readonly need?: number | undefined;
  /** Most the customer will pay, net; absent = no limit. */
  readonly budget?: Minor | undefined;
  readonly school: School;
  /** The job puts capacity before an even set of channels. */
  readonly capacityFirst: boolean;
  readonly memoryTestPassed: boolean;
  /** Settings the job allows. */
  readonly settings: readonly [Setting, ...Setting[]];
  readonly offers: readonly Offer[];
  readonly drawer: readonly DrawerModule[];
  /** What a pulled module is worth to the customer, by the slot it came from; none = 0. */
  readonly credit: Readonly<Partial<Record<SlotId, Minor>>>;
  /** Flat labour, due as soon as the machine has to be opened: anything fitted, moved or pulled. */
  readonly labour: Minor;
}

/** Where the module in a slot comes from. */
export type UnitSource =
  | { readonly type: 'kept'; readonly from: SlotId }
  | { readonly type: 'offer'; readonly offerId: string; readonly copy: number }
  | { readonly type: 'drawer'; readonly drawerId: string };

/** One module of a plan, in its slot. */
export interface PlannedUnit {
  readonly slotId: SlotId;
  readonly source: UnitSource;
  readonly module: MemoryModule;
}

/** What a plan is worth, one number per objective. */
export interface PlanWorth {
  /** Parts + labour − credit; lower is better. */
  readonly cost: Minor;
  /** Low end of usable capacity, GiB. */
  readonly usable: number;
  /** Peak of the slowest region the need reaches, under the worse reading, GB/s. */
  readonly bandwidth: number;
  readonly grade: Grade;
  /** Fitted modules that are pulled for good; lower is better. */
  readonly displaced: number;
  readonly freeSlots: number;
}

/** One way to go about it. */
export interface Plan {
  /** Names the same modules, slots and setting whenever the search is run again. */
  readonly id: string;
  readonly setting: Setting;
  readonly units: readonly PlannedUnit[];
  readonly placement: Placement;
  readonly purchases: readonly { readonly offerId: string; readonly packs: number }[];
  readonly drawer: readonly string[];
  /** Slots whose module is pulled and not used again. */
  readonly pulled: readonly SlotId[];
  /** Slots whose module moves elsewhere. */
  readonly moved: readonly SlotId[];
  readonly cost: {
    readonly parts: Minor;
    readonly labour: Minor;
    readonly credit: Minor;
    readonly net: Minor;
  };
  readonly worth: PlanWorth;
}
