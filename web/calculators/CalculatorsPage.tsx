import type { ReactNode } from 'react';
import {
  BandwidthCalculator,
  ClockCalculator,
  StepCalculator,
  ZoneCalculator,
} from './figures.tsx';
import { LabelCalculator, TimingsCalculator } from './labels.tsx';
import { LatencyCalculator } from './latency.tsx';
import { Page } from '../ui/Page.tsx';

const WORKINGS: readonly (readonly [id: string, title: string, page: () => ReactNode])[] = [
  ['clock', 'Clock and data rate', ClockCalculator],
  ['latency', 'CL in nanoseconds', LatencyCalculator],
  ['bandwidth', 'Bandwidth', BandwidthCalculator],
  ['zone', 'Two unequal channels', ZoneCalculator],
  ['timings', 'A module at another rate', TimingsCalculator],
  ['label', 'Label', LabelCalculator],
  ['step', 'Synchronous (1:1) limit', StepCalculator],
];

/** The bench's pocket calculators, without a job. What is entered stands in the address. */
export function CalculatorsPage() {
  return (
    <Page
      title="Calculators"
      actions={
        <>
          <nav aria-label="Calculators" className="flex flex-wrap gap-x-4">
            {WORKINGS.map(([id, title]) => (
              <a key={id} href={`#${id}`} className="link flex min-h-10 items-center text-aside">
                {title}
              </a>
            ))}
          </nav>
          <p className="ml-auto text-aside text-muted">
            Copy the address to share what you entered.
          </p>
        </>
      }
    >
      <div className="gap-4 md:columns-2">
        {WORKINGS.map(([id, title, Page]) => (
          <section
            key={id}
            id={id}
            aria-label={title}
            className="sheet mb-4 scroll-mt-4 break-inside-avoid"
          >
            <h2 className="mb-2 font-bold">{title}</h2>
            <Page />
          </section>
        ))}
      </div>
    </Page>
  );
}
