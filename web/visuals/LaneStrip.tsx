import { channelsWord, gb } from '#core/explaining';
import type { Machine } from '#core/machine';
import { stretchesOf } from '#core/operating-point';
import type { Layout, Running, Stretch } from '#core/operating-point';

interface LaneStripProps {
  readonly machine: Machine;
  readonly point: Running;
  /** GiB that are wanted, carve-out included. */
  readonly need?: number | undefined;
  /** GiB the work keeps in use, from and to, carve-out included; a wash behind the lanes. */
  readonly band?: { readonly low: number; readonly high: number } | undefined;
}

/** The depth at which so much is used, widest stretch first; past the end it is the end. */
function depthOf(stretches: readonly Stretch[], load: number): number {
  let before = 0;
  for (const { from, to, channels, total } of stretches) {
    if (load <= total) return from + (load - before) / channels.length;
    before = total;
    if (to === stretches.at(-1)?.to) return to;
  }
  return 0;
}

/**
 * One lane per channel, drawn to GB per channel. Where lanes run side by side they are coloured in
 * the channel's own pattern; the tail is dull. The axis below counts the total that far, and
 * the need is one line across.
 */
export function LaneStrip({ machine, point, need, band }: LaneStripProps) {
  const [layout] = point.layouts;
  const isSingle = layout.reading === 'single';
  const longest = Math.max(...point.loads.map(({ capacity }) => capacity), 1);
  const stretches = isSingle ? [] : stretchesOf(layout);
  const percent = (depth: number) => `${(100 * depth) / longest}%`;
  const fits = need === undefined || need <= point.installed;
  const needAt = need === undefined || isSingle ? undefined : percent(depthOf(stretches, need));
  return (
    <figure className="m-0">
      {need !== undefined && (
        <div className="relative ml-28 h-6 text-aside font-bold text-copper">
          <span
            className={`absolute whitespace-nowrap ${fits ? '-translate-x-1/2' : 'right-0'}`}
            style={
              fits ? { left: `clamp(5rem, ${needAt ?? '50%'}, calc(100% - 5rem))` } : undefined
            }
          >
            need {gb(Number(need.toFixed(1)))}
            {machine.graphicsCarveOut.high > 0 && ' with graphics'}
            {!fits && ': more than is fitted'}
          </span>
        </div>
      )}
      <div className="relative">
        {point.loads.map(({ channel, capacity }, at) => (
          <div key={channel} className="flex items-center py-1">
            <div className="w-28 shrink-0">
              <div>Channel {channel}</div>
              <div className="text-aside text-muted">{capacity > 0 ? gb(capacity) : 'empty'}</div>
            </div>
            <div className="relative h-8 grow rounded-sm border border-line">
              {capacity > 0 && isSingle && (
                <Segment from="0%" width={percent(capacity)} look="lane-tail" text={gb(capacity)} />
              )}
              {stretches
                .filter(({ channels }) => channels.includes(channel))
                .map(({ from, to, channels }) => (
                  <Segment
                    key={from}
                    from={percent(from)}
                    width={percent(to - from)}
                    look={channels.length > 1 ? `lane-${at % 4}` : 'lane-tail'}
                    text={`${gb(to - from)} ${channelsWord(channels.length)}`}
                  />
                ))}
            </div>
          </div>
        ))}
        {band && stretches.length > 0 && (
          <div aria-hidden className="pointer-events-none absolute inset-y-0 right-0 left-28">
            <div
              className="absolute -inset-y-1 border-x border-copper bg-copper/25"
              style={{
                left: percent(depthOf(stretches, band.low)),
                right: `calc(100% - ${percent(depthOf(stretches, band.high))})`,
              }}
            />
          </div>
        )}
        {needAt !== undefined && fits && (
          <div aria-hidden className="pointer-events-none absolute inset-y-0 right-0 left-28">
            <div className="absolute -inset-y-1 w-0.5 bg-copper" style={{ left: needAt }} />
          </div>
        )}
      </div>
      <div className="relative ml-28 h-5 text-aside text-muted" aria-hidden>
        <span className="absolute left-0">0</span>
        {stretches.map(({ to, total }) => (
          <span
            key={to}
            className="absolute -translate-x-full whitespace-nowrap"
            style={{ left: percent(to) }}
          >
            {gb(total)}
          </span>
        ))}
      </div>
      <figcaption className="mt-1 text-aside text-muted">
        {band && stretches.length > 0 && 'Copper band: what the work keeps in use. '}
        {caption(point, layout)}
      </figcaption>
    </figure>
  );
}

function caption(point: Running, layout: Layout): string {
  if (layout.reading === 'zone') {
    const hasTail = stretchesOf(layout).some(({ channels }) => channels.length === 1);
    const said = hasTail
      ? 'Coloured runs side by side, dull single-channel.'
      : 'All runs side by side.';
    return `${said} The axis counts the total that far.`;
  }
  const other = point.layouts[1];
  return other
    ? `Dull: this machine may run the uneven set single-channel. If it does not, ${gb(other.regions[0]?.capacity ?? 0)} would run side by side.`
    : 'Dull: this machine runs an uneven set single-channel.';
}

interface SegmentProps {
  readonly from: string;
  readonly width: string;
  readonly look: string;
  readonly text: string;
}

function Segment({ from, width, look, text }: SegmentProps) {
  return (
    <div
      className={`absolute inset-y-0 flex items-center overflow-hidden ${look}`}
      style={{ left: from, width }}
    >
      <span className="ml-2 truncate rounded-sm bg-sheet px-1.5 text-aside font-bold text-ink">
        {text}
      </span>
    </div>
  );
}
