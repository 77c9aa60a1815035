import { Tabs } from 'radix-ui';
import type { Job } from '#contract/records';
import { MeasuringPage } from '../measuring/MeasuringPage.tsx';
import { ReadRuns } from './ReadRuns.tsx';
import { RunsForm } from './RunsForm.tsx';
import type { Side } from './runsForm.ts';

/** The ways to runs: measured by the page, typed, or read from a table. */
export const WAYS = { page: 'Measuring page', type: 'Type them', table: 'From a table' } as const;
export type Way = keyof typeof WAYS;

interface AddRunsProps {
  readonly job: Job;
  readonly kind: Side;
  readonly way: Way;
  readonly onWay: (way: Way) => void;
}

/** Three ways to add runs. All stay as they were left: a link goes on waiting, typed runs stay. */
export function AddRuns({ job, kind, way, onWay }: AddRunsProps) {
  const ways: Readonly<Record<Way, React.ReactNode>> = {
    page: <MeasuringPage job={job} kind={kind} />,
    type: <RunsForm job={job} kind={kind} onDone={() => undefined} />,
    table: <ReadRuns job={job} kind={kind} />,
  };
  const names = Object.entries(WAYS) as [Way, string][];
  return (
    <Tabs.Root
      value={way}
      onValueChange={(next) => onWay(next as Way)}
      className="mt-2 grid gap-3 rounded-md border border-line p-3"
    >
      <Tabs.List aria-label="Ways to add runs" className="flex flex-wrap gap-x-5">
        {names.map(([id, name]) => (
          <Tabs.Trigger
            key={id}
            value={id}
            className="min-h-10 border-b-3 border-transparent data-[state=active]:border-copper data-[state=active]:font-bold"
          >
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {names.map(([id]) => (
        <Tabs.Content key={id} value={id} forceMount className="data-[state=inactive]:hidden">
          {ways[id]}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
