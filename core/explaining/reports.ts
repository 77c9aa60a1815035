import type { MemoryModule } from '../memory/index.ts';
import type { OperatingPoint } from '../operating-point/index.ts';
import { METRIC_TRAITS, mean } from '../proving/index.ts';
import type { ChannelInference, MetricProof, Proof } from '../proving/index.ts';
import { decimals, exhausted } from '../units/index.ts';
import { usableText } from './points.ts';
import { explainChannels, explainGain, PROMISE_WORDS } from './proofs.ts';
import { count, figure, gb, list, volts } from './words.ts';

/** A measured figure as the customer reads it: never without its unit and its before. */
export interface ReportRow {
  readonly test: string;
  readonly name: string;
  readonly before: string;
  readonly after: string;
  readonly change: string;
  /** How sure that is, in words. */
  readonly sure: string;
  /** Mean of each side, in the metric's unit, for a picture; absent where nothing was measured. */
  readonly means: { readonly before?: number | undefined; readonly after?: number | undefined };
}

/** Everything compared or measured, none picked for being good. */
export function reportRows({ metrics }: Proof): ReportRow[] {
  return metrics.map((proof) => {
    const { metric, test, before, after } = proof;
    const { name, unit } = METRIC_TRAITS[metric];
    const show = (runs: readonly number[]) =>
      runs.length > 0 ? `${figure(mean(runs))} ${unit}` : 'not measured';
    const meanOf = (runs: readonly number[]) => (runs.length > 0 ? mean(runs) : undefined);
    return {
      ...{ test, name, before: show(before), after: show(after), ...changeWords(proof) },
      means: { before: meanOf(before), after: meanOf(after) },
    };
  });
}

function changeWords(proof: MetricProof): Pick<ReportRow, 'change' | 'sure'> {
  const { gain, use, againstPromise, standsTogether } = proof;
  if (use) return { change: explainGain(proof).title, sure: explainGain(proof).why };
  if (!gain) return { change: 'not compared', sure: explainGain(proof).title };
  const range = gain.interval
    ? `between ×${decimals(gain.interval.low.toFixed(2))} and ×${decimals(gain.interval.high.toFixed(2))}, 19 times in 20`
    : '';
  switch (gain.verdict) {
    case 'too few runs':
      return { change: 'too few runs to say', sure: 'one run says nothing about chance' };
    case 'inside noise':
      return { change: 'no change beyond chance', sure: range };
    default: {
      const change = `×${decimals(gain.factor.toFixed(2))} ${gain.verdict === 'gain' ? 'better' : 'worse'}`;
      const alone = standsTogether === false ? 'could be luck among several figures' : '';
      const promise = againstPromise ? PROMISE_WORDS[againstPromise].toLowerCase() : '';
      return { change, sure: [range, promise, alone].filter(Boolean).join('; ') };
    }
  }
}

/** What the machine had, what was done and what it gives, for someone who never opened one. */
export function reportStory(
  proof: Proof | undefined,
  pulled: readonly MemoryModule[],
  fitted: readonly MemoryModule[],
): { readonly was: string; readonly done: string; readonly gives: string } {
  if (!proof) return { was: '', done: 'Nothing has been fitted yet.', gives: '' };
  const { before, after } = proof;
  const sizes = (modules: readonly MemoryModule[]) =>
    `${count(modules.length, 'module')} (${list(modules.map(({ capacity }) => gb(capacity)))})`;
  const done = [
    pulled.length > 0 && `took out ${sizes(pulled)}`,
    fitted.length > 0 && `fitted ${sizes(fitted)}`,
  ].filter(Boolean);
  return {
    was: pointWords(before, 'Your machine had', 'It did not run as it was found.'),
    done: done.length > 0 ? `We ${list(done as string[])}.` : 'No module was added or taken out.',
    gives: pointWords(after, 'It now has', 'As recorded, the fitted memory would not run.'),
  };
}

function pointWords(point: OperatingPoint, start: string, otherwise: string): string {
  if (point.type === 'blocked') return otherwise;
  return `${start} ${gb(point.installed)} of memory, of which programs can use ${usableText(point)}, at ${point.rate} MT/s.`;
}

/** What was proven besides the figures, and how sure it is. */
export function reportProof(proof: Proof): string[] {
  const { channels } = proof;
  return [channels && plainChannels(channels)].filter((text) => text !== undefined);
}

/** What bandwidth says of the channels, for whoever paid; nothing where it says nothing of this set. */
function plainChannels(channels: ChannelInference): string | undefined {
  const { verdict } = channels;
  switch (verdict.type) {
    case 'paired':
      return 'The modules work side by side: the measured transfer shows it.';
    case "can't tell":
      return verdict.open.includes('uneven')
        ? 'The modules differ in size, so no more than part of the memory works side by side; no test can tell the parts from one another.'
        : 'Whether the modules work side by side: what was measured does not tell.';
    case 'above the bus':
      return undefined;
    case 'one wide':
    case 'partly':
    case 'only one channel holds memory':
      return `${explainChannels(channels).title}.`;
    default:
      return exhausted(verdict);
  }
}

/** The verdict for whoever paid for it, without the trade's words. */
export function plainVerdict({ headline }: Proof): string {
  switch (headline.type) {
    case 'gain':
      return `Better than before, and measured: ×${headline.proof.gain?.factor.toFixed(2)} in “${headline.proof.test}”.`;
    case 'loss':
      return `Slower than before in what was measured: “${headline.proof.test}”.`;
    case 'mixed':
      return `Some of it is better (“${headline.gained.test}”), some slower (“${headline.lost.test}”).`;
    case 'inside noise':
      return 'What was measured did not change beyond chance.';
    case 'not running':
      return 'As recorded, it would not run.';
    case 'nothing measured':
      return 'Fitted; nothing was measured.';
    case 'no comparison':
    case 'not comparable':
    case 'too few runs':
      return 'Fitted; what was measured does not tell how much changed.';
    default:
      return exhausted(headline);
  }
}

/** Every timing of a running point: `CL 17-17-17-39, first word 14.2 ns, 1.2 V`. */
export function timingsText(point: OperatingPoint): string {
  if (point.type === 'blocked') return '';
  const { cycles, firstWord } = point.timings;
  const { cl, trcd, trp, tras } = cycles;
  const all = [cl, trcd, trp, tras].filter((value) => value !== undefined).join('-');
  return `CL ${all}, latency ${figure(firstWord)} ns, ${volts([point.voltageMv])}`;
}
