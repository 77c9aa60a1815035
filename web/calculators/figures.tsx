import { figure, gb } from '#core/explaining';
import { desktopLanes } from './lanes.ts';
import { clockPeriodNs, dataRate, exactRate, peakBandwidth } from '#core/units';
import { SelectField, TextField } from '../ui/Field.tsx';
import { LaneStrip } from '../visuals/LaneStrip.tsx';
import { Result } from './Result.tsx';
import { figureIn, useUrlText } from './useUrlText.ts';

/** Field errors that say what is wanted. */
const RATE_WANTED = 'A rate from 100 to 20000 MT/s.';

/** 1600 MHz or 3200 MT/s? */
export function ClockCalculator() {
  const [text, setText] = useUrlText('rate', '3200');
  const [kind, setKind] = useUrlText('is', 'rate');
  const value = figureIn(text, kind === 'rate' ? 100 : 50, kind === 'rate' ? 20_000 : 10_000);
  const rate = value === undefined ? undefined : dataRate(kind === 'rate' ? value : value * 2);
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Figure"
          inputMode="decimal"
          value={text}
          error={value === undefined ? RATE_WANTED : undefined}
          onChange={({ target }) => setText(target.value)}
        />
        <SelectField
          label="It is"
          value={kind}
          options={[
            ['rate', 'the data rate, MT/s'],
            ['clock', 'the clock, MHz'],
          ]}
          onChange={({ target }) => setKind(target.value)}
        />
      </div>
      {rate !== undefined && (
        <Result
          aside={`One clock lasts ${figure(clockPeriodNs(rate), 4)} ns. Half the rated figure on a screen is the clock, not half speed.`}
        >
          {figure(exactRate(rate), 6)} MT/s = {figure(exactRate(rate) / 2, 6)} MHz
        </Result>
      )}
    </>
  );
}

/** Peak of a bus. */
export function BandwidthCalculator() {
  const [channels, setChannels] = useUrlText('channels', '2');
  const [bits, setBits] = useUrlText('bits', '64');
  const [text, setText] = useUrlText('busRate', '3200');
  const rate = figureIn(text, 100, 20_000);
  const width = Number(channels) * Number(bits);
  return (
    <>
      <div className="grid grid-cols-3 gap-3">
        <SelectField
          label="Channels"
          value={channels}
          options={['1', '2', '3', '4', '6', '8', '12'].map((one) => [one, one])}
          onChange={({ target }) => setChannels(target.value)}
        />
        <SelectField
          label="Bits each"
          value={bits}
          options={['16', '32', '64', '128'].map((one) => [one, one])}
          onChange={({ target }) => setBits(target.value)}
        />
        <TextField
          label="Rate, MT/s"
          inputMode="decimal"
          value={text}
          error={rate === undefined ? RATE_WANTED : undefined}
          onChange={({ target }) => setText(target.value)}
        />
      </div>
      {rate !== undefined && (
        <Result
          aside={`${width} bits = ${width / 8} bytes a transfer. A DDR5 module’s two subchannels count as one channel of 64.`}
        >
          {figure(peakBandwidth(dataRate(rate), width), 4)} GB/s
        </Result>
      )}
    </>
  );
}

/** How much of two unlike lanes runs side by side. */
export function ZoneCalculator() {
  const [a, setA] = useUrlText('a', '16');
  const [b, setB] = useUrlText('b', '8');
  const [left, right] = [figureIn(a, 0, 4096), figureIn(b, 0, 4096)];
  const point = left !== undefined && right !== undefined ? desktopLanes(left, right) : undefined;
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        {(
          [
            ['Channel A, GB', a, setA, left],
            ['Channel B, GB', b, setB, right],
          ] as const
        ).map(([label, text, set, value]) => (
          <TextField
            key={label}
            label={label}
            inputMode="decimal"
            value={text}
            error={value === undefined ? 'From 0 to 4096 GB.' : undefined}
            onChange={({ target }) => set(target.value)}
          />
        ))}
      </div>
      {left !== undefined && right !== undefined && (
        <>
          <Result
            aside={
              left === right
                ? 'Both channels hold the same: all of it runs side by side.'
                : 'Twice the smaller channel runs side by side. Some machines run the whole uneven set single-channel instead.'
            }
          >
            {gb(2 * Math.min(left, right))} dual-channel, {gb(Math.abs(left - right))}{' '}
            single-channel
          </Result>
          {point && (
            <div className="mt-2">
              <LaneStrip machine={point.machine} point={point.running} />
            </div>
          )}
        </>
      )}
    </>
  );
}

/** Whether memory and controller clocks run in step. */
export function StepCalculator() {
  const [text, setText] = useUrlText('memory', '3600');
  const [limitText, setLimit] = useUrlText('limit', '3733');
  const rate = figureIn(text, 100, 20_000);
  const limit = figureIn(limitText, 100, 20_000);
  const inStep =
    rate !== undefined &&
    limit !== undefined &&
    exactRate(dataRate(rate)) <= exactRate(dataRate(limit));
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Memory rate, MT/s"
          inputMode="decimal"
          value={text}
          error={rate === undefined ? RATE_WANTED : undefined}
          onChange={({ target }) => setText(target.value)}
        />
        <TextField
          label="Machine runs in step up to, MT/s"
          inputMode="decimal"
          value={limitText}
          error={limit === undefined ? RATE_WANTED : undefined}
          onChange={({ target }) => setLimit(target.value)}
        />
      </div>
      {rate !== undefined && limit !== undefined && (
        <Result
          aside={
            inStep
              ? `Memory clock : fabric clock 1 : 1, ${figure(exactRate(dataRate(rate)) / 2, 5)} MHz each.`
              : 'The controller halves its clock; latency rises by roughly a tenth, so a slower kit in step can be faster. A little above the limit, setting it by hand often works.'
          }
        >
          {inStep ? 'In step' : 'Out of step: 1 : ½'}
        </Result>
      )}
    </>
  );
}
