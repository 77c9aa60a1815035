import {
  explainGain,
  explainProofCaution,
  figure,
  gainText,
  PROMISE_BASES,
  PROMISE_WORDS,
  toSettleText,
} from '#core/explaining';
import { METRIC_TRAITS, mean } from '#core/proving';
import type { MetricProof } from '#core/proving';
import { Mark } from '../ui/Mark.tsx';
import type { MarkKind } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { WhyLink } from '../ui/Why.tsx';

const WIDTH = 560;
const HEIGHT = 112;
const TOP = { before: 40, after: 70, axis: 92 } as const;

interface Scale {
  readonly at: (value: number) => number;
  readonly ticks: readonly number[];
  readonly fromZero: boolean;
}

/** A limit this many times the drawn range away stands at the edge instead of squeezing the runs. */
const FAR = 1.2;

/** Round ticks over everything that is drawn; from zero where that costs less than half the width. */
function scaleOf(values: readonly number[], limit: number | undefined): Scale {
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const isFar = (value: number) =>
    Math.max(least - value, value - most) > FAR * Math.max(most - least, most * 0.25);
  const drawn = limit === undefined || isFar(limit) ? values : [...values, limit];
  const high = Math.max(...drawn);
  const low = Math.min(...drawn);
  const fromZero = low < high * 0.6;
  const start = fromZero ? 0 : low - (high - low) * 0.15 - high * 0.01;
  const end = high + (high - start) * 0.06;
  const raw = (end - start) / 4;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = ([1, 2, 2.5, 5, 10].find((m) => m * power >= raw) ?? 10) * power;
  const first = Math.ceil(start / step) * step;
  const ticks = Array.from({ length: 8 }, (_, at) => first + at * step).filter(
    (tick) => tick <= end,
  );
  const at = (value: number) => 12 + ((WIDTH - 24) * (value - start)) / (end - start);
  return { at: (value) => Math.min(WIDTH - 4, Math.max(4, at(value))), ticks, fromZero };
}

/**
 * Runs before (grey, above) and after (copper, below) of one test: every run a dot, the mean a
 * triangle, the promise a dashed box, the physical limit a thick line.
 */
export function ProofStrip({ proof }: { readonly proof: MetricProof }) {
  const { metric, test, before, after, promised, limit, cautions } = proof;
  const { name, unit, better } = METRIC_TRAITS[metric];
  const sense = {
    higher: ', higher is better',
    lower: ', lower is better',
    declared: '',
    neither: '',
  }[better];
  const values = [...before, ...after, ...(promised ? [promised.low, promised.high] : [])];
  const scale = values.length > 0 ? scaleOf(values, limit) : undefined;
  const refused = cautions.filter(
    ({ type }) => type === 'baseline-on-other-modules' || type === 'runs-on-other-modules',
  );
  const others = cautions.filter((caution) => !refused.includes(caution));
  return (
    <article className="border-t border-line py-3 first:border-0" aria-label={`${name}, ${test}`}>
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <div className="w-36 shrink-0">
          <h3 className="font-bold break-words">{test}</h3>
          <p className="text-aside text-muted">
            {name}, {unit}
            {sense}
            {scale && !scale.fromZero && '; axis not from 0'}
          </p>
        </div>
        <div className="min-w-64 grow basis-88">
          {scale && <Drawing proof={proof} scale={scale} />}
        </div>
        <Verdict proof={proof} />
      </div>
      {[...refused, ...others].map((caution) => {
        const { title, why, mend } = explainProofCaution(caution);
        return (
          <div key={caution.type} className="mt-2">
            <Notice
              kind={refused.includes(caution) ? 'stop' : 'caution'}
              title={title}
              why={why}
              mend={mend}
            />
          </div>
        );
      })}
    </article>
  );
}

function Drawing({ proof, scale }: { readonly proof: MetricProof; readonly scale: Scale }) {
  const { before, after, promised, limit, metric } = proof;
  const { unit } = METRIC_TRAITS[metric];
  const spoken = [
    before.length > 0 && `before ${figure(mean(before))} ${unit} mean of ${before.length}`,
    after.length > 0 && `after ${figure(mean(after))} ${unit} mean of ${after.length}`,
    promised &&
      `promised ${figure(promised.low)} to ${figure(promised.high)}, ${PROMISE_BASES[promised.basis]}`,
    limit !== undefined && `limit ${figure(limit)}`,
  ];
  const { at, ticks } = scale;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={spoken.filter(Boolean).join(', ')}
      className="block w-full"
    >
      {promised && (
        <g>
          <rect
            x={at(promised.low)}
            y={8}
            width={Math.max(2, at(promised.high) - at(promised.low))}
            height={TOP.axis - 8}
            className="fill-teal-wash stroke-teal"
            strokeDasharray="4 3"
          />
          <text
            x={at(promised.low) + (at(promised.low) > WIDTH - 80 ? -4 : 4)}
            y={20}
            textAnchor={at(promised.low) > WIDTH - 80 ? 'end' : 'start'}
            className="fill-ink text-[12px]"
          >
            promised
          </text>
        </g>
      )}
      {limit !== undefined && (
        <g>
          <line
            x1={at(limit)}
            x2={at(limit)}
            y1={4}
            y2={TOP.axis}
            className="stroke-ink"
            strokeWidth={3}
          />
          <text
            x={at(limit) + (at(limit) > WIDTH / 2 ? -6 : 6)}
            y={16}
            textAnchor={at(limit) > WIDTH / 2 ? 'end' : 'start'}
            className="fill-ink text-[12px]"
          >
            limit {figure(limit)}
          </text>
        </g>
      )}
      <line x1={0} x2={WIDTH} y1={TOP.axis} y2={TOP.axis} className="stroke-line" />
      {ticks.map((tick) => (
        <text
          key={tick}
          x={at(tick)}
          y={HEIGHT - 6}
          textAnchor="middle"
          className="fill-muted text-[12px]"
        >
          {figure(tick, 4)}
        </text>
      ))}
      <Runs values={before} y={TOP.before} scale={scale} look="fill-edge stroke-edge" />
      <Runs values={after} y={TOP.after} scale={scale} look="fill-copper stroke-copper" />
    </svg>
  );
}

interface RunsProps {
  readonly values: readonly number[];
  readonly y: number;
  readonly scale: Scale;
  readonly look: string;
}

function Runs({ values, y, scale: { at }, look }: RunsProps) {
  if (values.length === 0) return null;
  const centre = at(mean(values));
  return (
    <g className={look}>
      <line
        x1={at(Math.min(...values))}
        x2={at(Math.max(...values))}
        y1={y}
        y2={y}
        strokeWidth={2}
      />
      {values.map((value, index) => (
        <circle key={index} cx={at(value)} cy={y} r={5} fillOpacity={0.45} />
      ))}
      <path d={`M ${centre - 5} ${y - 16} h 10 l -5 8 z`} stroke="none" />
    </g>
  );
}

const VERDICT_MARKS: Readonly<Record<NonNullable<MetricProof['gain']>['verdict'], MarkKind>> = {
  gain: 'ok',
  loss: 'stop',
  'inside noise': 'same',
  'too few runs': 'caution',
};

function Verdict({ proof }: { readonly proof: MetricProof }) {
  const { gain, againstPromise } = proof;
  const reasons = [explainGain(proof)];
  if (!gain)
    return (
      <div className="w-44 shrink-0 text-aside text-muted">
        {reasons[0]?.title} <WhyLink title={proof.test} reasons={reasons} />
      </div>
    );
  const isNoise = gain.verdict === 'inside noise';
  const more = toSettleText(gain);
  return (
    <div className="flex w-44 shrink-0 items-start gap-2">
      <Mark
        kind={
          againstPromise === 'worse' && gain.verdict === 'gain'
            ? 'caution'
            : VERDICT_MARKS[gain.verdict]
        }
      />
      <div className="min-w-0">
        <p className="font-bold">
          {isNoise
            ? 'Inside noise'
            : gain.verdict === 'too few runs'
              ? 'Too few runs'
              : gainText(gain)}
        </p>
        <p className="text-aside text-muted">
          {isNoise && `${gainText(gain)}. `}
          {againstPromise && `${PROMISE_WORDS[againstPromise]}. `}
          {more}
        </p>
        <WhyLink title={proof.test} reasons={reasons} />
      </div>
    </div>
  );
}
