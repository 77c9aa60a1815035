import type { Command, MemorySystem } from '#core/timing-simulation';

/** What a standard demands between commands, ps unless it says otherwise; restated here by itself. */
export interface Limits {
  readonly clock: number;
  /** Clock cycles. */
  readonly slots: Readonly<Record<Command, number>>;
  readonly rcd: number;
  readonly rp: number;
  readonly ras: number;
  readonly rc: number;
  readonly rtp: number;
  readonly wr: number;
  readonly rrdShort: number;
  readonly rrdLong: number;
  readonly faw: number;
  readonly ccdShort: number;
  readonly ccdLong: number;
  readonly ccdLongWrite: number;
  readonly wtrShort: number;
  readonly wtrLong: number;
  readonly rfc: number;
  readonly refi: number;
  readonly readLatency: number;
  readonly writeLatency: number;
  readonly burst: number;
  readonly rankGap: number;
  readonly readWriteGap: number;
  readonly banksPerGroup: number;
  readonly banksPerRank: number;
  readonly ranks: number;
}

/** Standards let times fall short of whole cycles by this: 2.6 % of a cycle, or 0.3 % of the time. */
const SHORTFALL = { DDR3: 0.026, DDR4: 0.026, DDR5: 0.003 } as const;

/** Limits of a system, from the standards and what its modules state. */
export function limitsOf(system: MemorySystem, ranks: number): Limits {
  const own = standardLimits(system, ranks);
  const short = (ps: number) =>
    system.generation === 'DDR5'
      ? ps * (1 - SHORTFALL.DDR5)
      : ps - SHORTFALL[system.generation] * own.clock;
  const stated = Object.entries(system.stated ?? {}).map(([name, ps = 0]) => [name, short(ps)]);
  return { ...own, ...(Object.fromEntries(stated) as Partial<Limits>) };
}

function standardLimits(system: MemorySystem, ranks: number): Limits {
  const clock = 2e6 / system.rate;
  const isWide = system.chipWidth === 16;
  const { generation, density } = system;
  const at = (nck: number, ns = 0) =>
    Math.max(
      nck * clock,
      generation === 'DDR5'
        ? ns * 1000 * (1 - SHORTFALL.DDR5)
        : ns * 1000 - SHORTFALL[generation] * clock,
    );
  const stated = (cycles: number) => cycles * clock;
  const shared = {
    ...{ clock, ranks, rcd: stated(system.rcd), rp: stated(system.rp) },
    readLatency: stated(system.cl),
    readWriteGap: stated(2),
  };
  if (generation === 'DDR5') {
    const perGroup = density <= 8 ? 2 : 4;
    const ras = at(0, 32);
    return {
      ...{ ...shared, ras, rc: ras + shared.rp, writeLatency: stated(system.cl - 2) },
      slots: { ACT: 2, RD: 2, WR: 2, PRE: 1, REF: 1 },
      ...{ rtp: at(12, 7.5), wr: at(0, 30), rrdShort: at(8), rrdLong: at(8, 5) },
      ...{
        faw: at(isWide ? 40 : 32),
        ccdShort: at(8),
        ccdLong: at(8, 5),
        ccdLongWrite: at(16, 10),
      },
      ...{ wtrShort: at(4, 2.5), wtrLong: at(16, 10), refi: 3900e3, burst: stated(8) },
      rfc: at(0, density <= 8 ? 195 : density <= 16 ? 295 : 410),
      ...{ rankGap: stated(4), banksPerGroup: perGroup },
      banksPerRank: (isWide ? 4 : 8) * perGroup,
    };
  }
  const shortest = { rcd: shared.rcd, rp: shared.rp };
  if (generation === 'DDR4') {
    const row = DDR4_ROWS[system.rate];
    if (!row) throw new Error(`no limits of ${system.rate} here`);
    const ras = at(0, row.ras);
    return {
      ...{ ...shared, ...shortest, ras, rc: ras + shared.rp, writeLatency: stated(row.cwl) },
      slots: { ACT: 1, RD: 1, WR: 1, PRE: 1, REF: 1 },
      ...{ rtp: at(4, 7.5), wr: at(0, 15), ccdShort: at(4), ccdLong: at(5, 5) },
      ...{ rrdShort: at(4, isWide ? 5.3 : row.rrdShort), rrdLong: at(4, isWide ? 6.4 : 4.9) },
      ...{ faw: isWide ? at(28, 30) : at(20, 21), ccdLongWrite: at(5, 5) },
      ...{ wtrShort: at(2, 2.5), wtrLong: at(4, 7.5), refi: 7800e3, burst: stated(4) },
      rfc: at(0, density <= 4 ? 260 : density <= 8 ? 350 : 550),
      ...{ rankGap: stated(2), banksPerGroup: 4, banksPerRank: isWide ? 8 : 16 },
    };
  }
  const ras = at(0, 35);
  return {
    ...{ ...shared, ...shortest, ras, rc: ras + shared.rp, writeLatency: stated(8) },
    slots: { ACT: 1, RD: 1, WR: 1, PRE: 1, REF: 1 },
    ...{ rtp: at(4, 7.5), wr: at(0, 15), ccdShort: at(4), ccdLong: at(4), ccdLongWrite: at(4) },
    ...{ rrdShort: at(4, isWide ? 7.5 : 6), rrdLong: at(4, isWide ? 7.5 : 6) },
    ...{ faw: at(20, isWide ? 40 : 30), wtrShort: at(4, 7.5), wtrLong: at(4, 7.5) },
    ...{ refi: 7800e3, burst: stated(4), rfc: at(0, density <= 4 ? 260 : 350) },
    ...{ rankGap: stated(2), banksPerGroup: 8, banksPerRank: 8 },
  };
}

const DDR4_ROWS: Readonly<Record<number, { rrdShort: number; cwl: number; ras: number }>> = {
  2400: { rrdShort: 3.3, cwl: 12, ras: 32 },
  2666: { rrdShort: 3, cwl: 14, ras: 32 },
  3200: { rrdShort: 2.5, cwl: 16, ras: 32 },
};

interface BankState {
  row: number | undefined;
  act: number;
  pre: number;
  /** Earliest moment its row may be closed. */
  closable: number;
}

const LONG_AGO = -1e15;

/**
 * Replays the commands of one channel against every limit, knowing nothing of how they were chosen.
 * What is wrong is kept in words, the rule first.
 */
export class CommandChecker {
  readonly violations = new Map<string, number>();
  commands = 0;
  readonly served = new Set<number>();

  private readonly banks: BankState[];
  private readonly acts: number[][];
  private readonly refs: number[];
  private lastAt = LONG_AGO;
  private lastCommand: Command = 'PRE';
  /** Last opening and last transfers of each rank and group. */
  private readonly groupActs = new Map<number, number>();
  private readonly reads = new Map<string, number>();
  private readonly writes = new Map<string, number>();
  private bus: { end: number; rank: number; isWrite: boolean } | undefined;

  constructor(private readonly limits: Limits) {
    const { ranks, banksPerRank } = limits;
    this.banks = Array.from({ length: ranks * banksPerRank }, () => ({
      ...{ row: undefined, act: LONG_AGO, pre: LONG_AGO, closable: LONG_AGO },
    }));
    this.acts = Array.from({ length: ranks }, () => []);
    this.refs = Array.from({ length: ranks }, () => 0);
  }

  hear(cycle: number, command: Command, bank: number, row: number, request: number): void {
    this.commands++;
    const { limits } = this;
    const at = cycle * limits.clock;
    const rank = Math.floor(bank / limits.banksPerRank);
    const group = Math.floor(bank / limits.banksPerGroup);
    const state = this.banks[bank];
    if (!state) return this.fault('no such bank');
    this.demand('command bus', at, this.lastAt + limits.slots[this.lastCommand] * limits.clock);
    this.lastAt = at;
    this.lastCommand = command;
    if (command === 'REF') return this.refresh(at, rank);
    if (this.refs[rank]) this.demand('tRFC', at, (this.refs[rank] ?? 0) + limits.rfc);
    if (command === 'ACT') this.open(at, state, rank, group, row);
    else if (command === 'PRE') {
      if (state.row === undefined) this.fault('PRE of a closed bank');
      this.demand('tRAS', at, state.act + limits.ras);
      this.demand('tRTP or tWR', at, state.closable);
      state.row = undefined;
      state.pre = at;
    } else this.transfer(at, state, { rank, group, row, request, isWrite: command === 'WR' });
  }

  /** At the end: each rank was refreshed as often as it must. */
  finish(cycle: number): void {
    for (const last of this.refs)
      this.demand('refresh on time', last + 1.25 * this.limits.refi, cycle * this.limits.clock);
  }

  private open(at: number, state: BankState, rank: number, group: number, row: number): void {
    const { limits } = this;
    if (state.row !== undefined) this.fault('ACT of an open bank');
    this.demand('tRP', at, state.pre + limits.rp);
    this.demand('tRC', at, state.act + limits.rc);
    const acts = this.acts[rank] ?? [];
    this.demand('tRRD_S', at, (acts.at(-1) ?? LONG_AGO) + limits.rrdShort);
    this.demand('tRRD_L', at, (this.groupActs.get(group) ?? LONG_AGO) + limits.rrdLong);
    this.demand('tFAW', at, (acts.at(-4) ?? LONG_AGO) + limits.faw);
    acts.push(at);
    if (acts.length > 4) acts.shift();
    this.groupActs.set(group, at);
    state.row = row;
    state.act = at;
    state.closable = LONG_AGO;
  }

  private transfer(
    at: number,
    state: BankState,
    one: { rank: number; group: number; row: number; request: number; isWrite: boolean },
  ): void {
    const { limits } = this;
    const { rank, group, isWrite } = one;
    if (state.row !== one.row) this.fault('not the open row');
    if (this.served.has(one.request)) this.fault('served twice');
    this.served.add(one.request);
    this.demand('tRCD', at, state.act + limits.rcd);
    const last = (from: Map<string, number>, key: string) => from.get(key) ?? LONG_AGO;
    const [ofRank, ofGroup] = [`r${rank}`, `g${group}`];
    const own = isWrite ? this.writes : this.reads;
    const other = isWrite ? this.reads : this.writes;
    this.demand('tCCD_S', at, last(own, ofRank) + limits.ccdShort);
    this.demand(
      isWrite ? 'tCCD_L_WR' : 'tCCD_L',
      at,
      last(own, ofGroup) + (isWrite ? limits.ccdLongWrite : limits.ccdLong),
    );
    if (!isWrite) {
      const written = limits.writeLatency + limits.burst;
      this.demand('tWTR_S', at, last(other, ofRank) + written + limits.wtrShort);
      this.demand('tWTR_L', at, last(other, ofGroup) + written + limits.wtrLong);
    }
    const start = at + (isWrite ? limits.writeLatency : limits.readLatency);
    if (this.bus) {
      this.demand('data bus', start, this.bus.end);
      if (this.bus.rank !== rank) this.demand('rank gap', start, this.bus.end + limits.rankGap);
      if (isWrite && !this.bus.isWrite)
        this.demand('read to write', start, this.bus.end + limits.readWriteGap);
    }
    const end = start + limits.burst;
    this.bus = { end, rank, isWrite };
    own.set(ofRank, at);
    own.set(ofGroup, at);
    state.closable = Math.max(state.closable, isWrite ? end + limits.wr : at + limits.rtp);
  }

  private refresh(at: number, rank: number): void {
    const { limits } = this;
    for (const state of this.banks.slice(
      rank * limits.banksPerRank,
      (rank + 1) * limits.banksPerRank,
    )) {
      if (state.row !== undefined) this.fault('REF with an open bank');
      this.demand('tRP before REF', at, state.pre + limits.rp);
    }
    const last = this.refs[rank] ?? 0;
    if (last > 0) this.demand('tRFC', at, last + limits.rfc);
    this.demand('refresh on time', last + 1.25 * limits.refi, at);
    this.refs[rank] = at;
  }

  /** Later than a limit, but for what adding up loses. */
  private demand(rule: string, at: number, earliest: number): void {
    if (at < earliest - 1) this.fault(rule);
  }

  private fault(rule: string): void {
    this.violations.set(rule, (this.violations.get(rule) ?? 0) + 1);
  }
}
