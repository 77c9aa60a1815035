import type { Collected } from './readCollected.ts';
import type { CollectedFact, CollectedFactName } from './format.ts';

/** A figure of the running system and what it was read from. */
export interface Told<T> {
  readonly value: T;
  readonly from: string;
}

/** What a collected file says of the running system. What it does not say is absent. */
export interface SystemFacts {
  /** Most memory seen in use, GiB; a lower bound where the system was paging meanwhile. */
  readonly peak?:
    | Told<{ readonly gib: number; readonly paging: boolean; readonly watchedSeconds: number }>
    | undefined;
  /** All memory the system may use, GiB. */
  readonly visible?: Told<number> | undefined;
  /** Held by built-in graphics, GiB. */
  readonly graphics?: Told<number> | undefined;
  readonly bits?: Told<32 | 64> | undefined;
  readonly drive?: Told<'solid state' | 'spinning'> | undefined;
  readonly power?: Told<'mains, full power' | 'mains, saving' | 'battery'> | undefined;
}

const KIB_PER_GIB = 2 ** 20;
/** Brought back from the drive while watching: more than a program's start fetches by the way. */
const PAGING_KIB = 16 * 1024;
/** A page file keeps what nobody has used for hours; beyond this share of memory it was short. */
const PAGED_SHARE = 0.05;
/** Modes in which a system holds its processor back. */
const SAVING = /^power$|balance.power|power-?sav|sav(?:er|ing)|low|quiet|eco/i;

/** The meaning of a collected file's figures. Impossible ones (0 memory, more in use than there is) are left out. */
export function systemOf({ facts }: Pick<Collected, 'facts'>): SystemFacts {
  const fact = (name: CollectedFactName): CollectedFact | undefined =>
    facts.find((one) => one.name === name);
  const figure = (name: CollectedFactName): Told<number> | undefined => {
    const found = fact(name);
    const value = Number(found?.value);
    return found && Number.isFinite(value) ? { value, from: found.from } : undefined;
  };
  const inGib = (name: CollectedFactName) => {
    const told = figure(name);
    return told && told.value > 0 ? { ...told, value: told.value / KIB_PER_GIB } : undefined;
  };
  const word = <T extends string>(
    name: CollectedFactName,
    meaning: (text: string) => T | undefined,
  ) => {
    const found = fact(name);
    const value = found && meaning(found.value.toLowerCase());
    return found && value ? { value, from: found.from } : undefined;
  };
  const visible = inGib('memory-visible');
  const used = inGib('memory-peak') ?? inGib('memory-in-use');
  const pagedIn = figure('paged-in');
  const pageFile = figure('page-file-in-use');
  const paging =
    (pagedIn?.value ?? 0) > PAGING_KIB ||
    (pageFile?.value ?? 0) > PAGED_SHARE * (visible?.value ?? Infinity) * KIB_PER_GIB;
  const isPossible = used && used.value <= (visible?.value ?? Infinity);
  const bits = figure('system-bits');
  const onBattery = word('power-source', (text) => (text === 'battery' ? 'battery' : undefined));
  const mode = word('power-mode', (text) =>
    SAVING.test(text) ? ('mains, saving' as const) : ('mains, full power' as const),
  );
  const found: SystemFacts = {
    visible,
    peak: isPossible
      ? {
          from: used.from,
          value: { gib: used.value, paging, watchedSeconds: figure('watched-for')?.value ?? 0 },
        }
      : undefined,
    graphics: inGib('graphics-share'),
    bits:
      bits?.value === 32 || bits?.value === 64 ? { value: bits.value, from: bits.from } : undefined,
    drive: word('drive-kind', (text) =>
      text === 'spinning' || text === 'solid state' ? text : undefined,
    ),
    power: onBattery ?? mode,
  };
  return Object.fromEntries(Object.entries(found).filter(([, one]) => one !== undefined));
}
