import { useNavigate } from 'react-router';
import { practiceApi } from '../app/practiceApi.ts';
import { Button } from '../ui/Button.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';

/** Makes a closed job into a machine to practise on, without anything of its customer. */
export function MakeExercise({ jobId }: { readonly jobId: string }) {
  const navigate = useNavigate();
  const [make] = practiceApi.useExerciseFromJobMutation();
  const making = useSave(make, ({ exercise }) => void navigate(`/practice/${exercise.id}/edit`));
  return (
    <>
      <Button onClick={() => void making.save({ id: jobId })}>Make an exercise of it</Button>
      <p className="mt-1 text-aside text-muted">
        The machine and what was done go to the practice bench; name and words of the customer do
        not.
      </p>
      <SaveNotice state={making.state} />
    </>
  );
}
