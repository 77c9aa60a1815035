import {
  EXAMPLE_LABEL,
  TIMING_NAMES,
  cyclesAt,
  cyclesNs,
  generationTraits,
  labelTimePs,
  readLabel,
  writeLabel,
} from '#core/memory';
import type { TimingName } from '#core/memory';
import { figure } from '#core/explaining';
import { exactRate } from '#core/units';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { LabelReport } from '../visuals/LabelReport.tsx';
import { useUrlText } from './useUrlText.ts';

const NAMES: Readonly<Record<TimingName, string>> = {
  cl: 'CL',
  trcd: 'tRCD',
  trp: 'tRP',
  tras: 'tRAS',
};

/** What a module needs at another standard rate: by the standard's rounding, and a clock tighter. */
export function TimingsCalculator() {
  const [label, setLabel] = useUrlText('module', '8GB 1Rx8 PC4-2666V-UA2-11');
  const { module } = readLabel(label);
  const rates = module ? generationTraits(module.generation).standardRates : [];
  const [asked, setRate] = useUrlText('runs', '2400');
  const rate = rates.find((one) => String(one) === asked) ?? rates[0];
  const isAbove = module && rate !== undefined && exactRate(rate) > exactRate(module.rate);
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-[1fr_9rem]">
        <TextField
          label="Label"
          spellCheck={false}
          value={label}
          error={
            module ? undefined : 'The label is incomplete: it needs size, generation and speed.'
          }
          onChange={({ target }) => setLabel(target.value)}
        />
        {rate !== undefined && (
          <SelectField
            label="runs at, MT/s"
            value={String(rate)}
            options={rates.map((one) => [String(one), String(one)])}
            onChange={({ target }) => setRate(target.value)}
          />
        )}
      </div>
      {module && rate !== undefined && (
        <>
          <table className="mt-3 w-full text-left tabular-nums">
            <caption className="sr-only">Timings at {rate} MT/s</caption>
            <thead>
              <tr className="border-b border-edge text-aside text-muted">
                {['', 'needs, ns', `clocks at ${rate}`, 'in ns', 'one tighter, ns'].map((head) => (
                  <th key={head} scope="col" className="py-1 pr-3 font-normal">
                    {head || <span className="sr-only">Timing</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {TIMING_NAMES.map((name) => {
                const cycles = cyclesAt(module, name, module.generation, rate);
                const stated = module.timings[name];
                const ps =
                  module.timesPs?.[name] ??
                  (stated === undefined
                    ? undefined
                    : labelTimePs(module.generation, stated, module.rate));
                if (cycles === undefined || ps === undefined) return null;
                const inNs = (clocks: number) =>
                  figure(cyclesNs(module.generation, clocks, rate), 4);
                return (
                  <tr key={name} className="border-b border-line last:border-0">
                    <th scope="row" className="py-1 pr-3">
                      {NAMES[name]}
                    </th>
                    <td className="pr-3">{figure(ps / 1000, 5)}</td>
                    <td className="pr-3 font-bold">{cycles}</td>
                    <td className="pr-3">{inNs(cycles)}</td>
                    <td className="pr-3">{cycles > 1 ? inNs(cycles - 1) : '–'}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <div className="mt-3 text-aside">
            {isAbove ? (
              <Notice
                kind="caution"
                title={`Above its ${module.rate} MT/s bin`}
                why="The standard promises nothing there, whatever the clocks."
                mend="Stay at its bin, or use its own profile and test."
              />
            ) : (
              <Notice
                kind="note"
                title="One clock tighter is outside the standard"
                why="Where the tighter time is shorter than what the module needs, it may start and still make errors."
                mend="Only with a memory test passed, the data safe and the customer’s word for it."
              />
            )}
          </div>
        </>
      )}
    </>
  );
}

/** A label read word by word, and written again as the standard would. */
export function LabelCalculator() {
  const [label, setLabel] = useUrlText('label', EXAMPLE_LABEL);
  const reading = readLabel(label);
  return (
    <>
      <TextField
        label="As printed"
        spellCheck={false}
        value={label}
        onChange={({ target }) => setLabel(target.value)}
      />
      <div className="mt-2" aria-live="polite">
        <LabelReport reading={reading} />
        <ul className="mt-2 grid gap-0.5 text-aside">
          {[...reading.understood].map(({ text, meaning }) => (
            <li key={text} className="grid grid-cols-[9rem_1fr] gap-2">
              <span className="figure font-bold break-words">{text}</span>
              <span>{meaning}</span>
            </li>
          ))}
        </ul>
        {reading.module && (
          <p className="mt-2 text-aside">
            <span className="text-muted">Written in full: </span>
            <span className="figure break-words">{writeLabel(reading.module)}</span>
          </p>
        )}
      </div>
    </>
  );
}
