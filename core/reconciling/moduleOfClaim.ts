import { commonCl, generationTraits, isBuildableCapacity, railsOf } from '../memory/index.ts';
import type { AssumedField, MemoryModule } from '../memory/index.ts';
import type { DeviceClaim } from '../inventory/index.ts';
import { makerKey } from '../inventory/index.ts';
import { dataRate } from '../units/index.ts';
import { rateMeant } from './shownRate.ts';

/**
 * The module a claim describes: the source's own where it suffices for one (SPD, label), else what
 * an inventory gives, with the timings of the common bin, listed as assumed. `undefined` without
 * generation or size.
 */
export function moduleOfClaim(claim: DeviceClaim): MemoryModule | undefined {
  if (claim.module) return claim.module;
  const { generation, capacity, ratedShown, configuredShown } = claim;
  if (generation === undefined || capacity === undefined || !isBuildableCapacity(capacity))
    return undefined;
  const traits = generationTraits(generation);
  const meant = rateMeant(ratedShown ?? configuredShown ?? 0, generation);
  const rate = meant?.rate ?? traits.standardRates[0] ?? dataRate(1600);
  const isLow = traits.lowPower;
  const assumed: AssumedField[] = ['timings'];
  if (!meant) assumed.push('rate');
  if (claim.formFactor === undefined && !isLow) assumed.push('form factor');
  if (claim.buffering === undefined && !isLow) assumed.push('buffering');
  const width = ([4, 8, 16, 32] as const).find((one) => one === claim.chipWidth);
  return {
    ...(claim.maker ? { maker: makerKey(claim.maker) } : {}),
    ...(claim.partNumber ? { partNumber: claim.partNumber } : {}),
    ...{ generation, capacity, rate },
    formFactor: claim.formFactor ?? (isLow ? 'soldered' : 'DIMM'),
    buffering: claim.buffering ?? 'unbuffered',
    ecc: claim.ecc ?? false,
    ranks: claim.ranks ?? 'unknown',
    chipWidth: width ?? 'unknown',
    timings: { cl: commonCl(generation, rate) },
    // The low-voltage variant shows in an inventory only by the voltage it runs at.
    voltagesMv: railsOf(
      generation,
      traits.lowVoltage !== undefined && claim.voltageMv === traits.lowVoltage.mv,
    ),
    assumed,
  };
}
