import type { ReactNode } from 'react';
import type { Job } from '#contract/records';
import { Failed, Loading } from '../../ui/States.tsx';
import { useBench } from './useBench.ts';
import type { Bench } from './useBench.ts';

interface WithBenchProps {
  readonly job: Job;
  readonly children: (bench: Bench) => ReactNode;
}

/**
 * What is done at the bench, once it is known how far that is: as long as it is not, the first step would
 * stand there as the next one, and a press would tick it.
 */
export function WithBench({ job, children }: WithBenchProps) {
  const { answer, ...bench } = useBench(job);
  if (answer.isKnown) return children(bench);
  return answer.error ? (
    <Failed failure={answer.error} what="what was done so far" onRetry={answer.refetch} />
  ) : (
    <Loading what="what was done so far" />
  );
}
