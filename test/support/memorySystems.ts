import type {
  MemorySystem,
  ModelledGeneration,
  Run,
  Workload,
  Zone,
} from '#core/timing-simulation';

/** Lines of 64 bytes in a GiB. */
export const GIB_LINES = 2 ** 24;

interface Wanted {
  readonly generation?: ModelledGeneration;
  readonly rate?: number;
  readonly cl?: number;
  readonly channels?: number;
  readonly ranks?: number;
  readonly chipWidth?: number;
  readonly density?: number;
  readonly zones?: readonly Zone[];
}

/** A memory system; DDR4-3200 CL22 on two channels, a rank of 8-bit chips each, where nothing is said. */
export function anySystem(wanted: Wanted = {}): MemorySystem {
  const { generation = 'DDR4', rate = 3200, cl = 22, channels = 2, ranks = 1 } = wanted;
  const { chipWidth = 8, density = generation === 'DDR5' ? 16 : 8 } = wanted;
  const perRank = (density / 8) * (64 / chipWidth);
  return {
    ...{ generation, rate, cl, rcd: cl, rp: cl, chipWidth, density },
    ranks: Array.from({ length: channels }, () => ranks),
    zones: wanted.zones ?? [
      {
        channels: Array.from({ length: channels }, (_, at) => at),
        lines: channels * ranks * perRank * GIB_LINES,
      },
    ],
  };
}

/** A run with the usual seed. */
export const runOf = (workload: Workload, more: Partial<Run> = {}): Run => ({
  workload,
  seed: 1,
  ...more,
});
