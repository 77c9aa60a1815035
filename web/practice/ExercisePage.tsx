import { Link, useParams } from 'react-router';
import { fileOf } from '#contract/practice';
import type { HeldExercise } from '#contract/practice';
import { Button } from '../ui/Button.tsx';
import { download } from '../ui/download.ts';
import { Page } from '../ui/Page.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { WhyPanel, WhyProvider } from '../ui/Why.tsx';
import { BenchView } from './BenchView.tsx';
import { DebriefView } from './DebriefView.tsx';
import { practiceApi } from '../app/practiceApi.ts';
import { usePracticeWalk } from './practiceWalk.ts';

/** One exercise: the bench, and once it is handed over what came of it. */
export function ExercisePage() {
  const { exerciseId = '' } = useParams();
  const { data, error, refetch } = practiceApi.useExerciseQuery(exerciseId);
  if (data) return <Walk key={data.exercise.id} held={data} />;
  return (
    <Page title="Practice bench">
      {error ? (
        <Failed failure={error} what="this exercise" onRetry={() => void refetch()} />
      ) : (
        <Loading what="this exercise" />
      )}
    </Page>
  );
}

function Walk({ held: { exercise, source } }: { readonly held: HeldExercise }) {
  const walk = usePracticeWalk(exercise);
  return (
    <Page
      title={exercise.title}
      actions={
        <span className="no-print flex flex-wrap items-center gap-x-4">
          <Link className="link inline-flex min-h-10 items-center" to="/practice">
            All exercises
          </Link>
          {source !== 'shipped' && (
            <Link
              className="link inline-flex min-h-10 items-center"
              to={`/practice/${exercise.id}/edit`}
            >
              Goal and words
            </Link>
          )}
          <Button
            look="quiet"
            onClick={() =>
              download(
                `${exercise.id}.exercise.json`,
                'application/json',
                `${JSON.stringify(fileOf(exercise), null, 2)}\n`,
              )
            }
          >
            Export it
          </Button>
        </span>
      }
    >
      <WhyProvider>
        {walk.world.over ? (
          <DebriefView exercise={exercise} walk={walk} />
        ) : (
          <BenchView walk={walk} />
        )}
        <WhyPanel />
      </WhyProvider>
    </Page>
  );
}
