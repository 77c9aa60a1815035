import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { HeldExercise } from '#contract/practice';
import { QUESTION_WORDS, RULE_WORDS } from '#core/explaining';
import { QUESTIONS, RULES } from '#core/practice';
import type { Goal, RuleId } from '#core/practice';
import { Button } from '../ui/Button.tsx';
import { Field, SelectField, TextField } from '../ui/Field.tsx';
import { Page } from '../ui/Page.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { practiceApi } from '../app/practiceApi.ts';

/** Goal and words of one of the shop's own exercises. */
export function EditExercisePage() {
  const { exerciseId = '' } = useParams();
  const { data, error, refetch } = practiceApi.useExerciseQuery(exerciseId);
  return (
    <Page title="Goal and words" isNarrow>
      {data ? (
        <Form key={data.version} held={data} />
      ) : error ? (
        <Failed failure={error} what="this exercise" onRetry={() => void refetch()} />
      ) : (
        <Loading what="this exercise" />
      )}
    </Page>
  );
}

const figureOr = (text: string): number | undefined =>
  text.trim() === '' ? undefined : Number(text.replace(',', '.'));

function Form({ held: { exercise, version } }: { readonly held: HeldExercise }) {
  const navigate = useNavigate();
  const { id, customer, goal = {} } = exercise;
  const [title, setTitle] = useState(exercise.title);
  const [level, setLevel] = useState(exercise.level);
  const [rule, setRule] = useState<RuleId>(exercise.teaches[0] ?? 'one channel');
  const [says, setSays] = useState(customer.says);
  const [answers, setAnswers] = useState(customer.answers);
  const [usable, setUsable] = useState(String(goal.usable ?? ''));
  const [budget, setBudget] = useState(
    goal.budget === undefined ? '' : (goal.budget / 100).toFixed(2),
  );
  const [isPaired, setPaired] = useState(goal.paired !== undefined);
  const [isTested, setTested] = useState(goal.tested === true);
  const [change] = practiceApi.useChangeExerciseMutation();
  const changing = useSave(change, () => void navigate(`/practice/${id}`));
  const [remove] = practiceApi.useRemoveExerciseMutation();
  const removing = useSave(remove, () => void navigate('/practice'));
  const save = () => {
    const spent = figureOr(budget);
    const { paired: _paired, tested: _tested, ...rest } = goal;
    const next: Goal = {
      ...rest,
      usable: figureOr(usable),
      budget: spent === undefined ? undefined : Math.round(spent * 100),
      ...(isPaired ? { paired: goal.paired ?? 'all' } : {}),
      ...(isTested ? { tested: true } : {}),
    };
    void changing.save({
      id,
      body: {
        ...{ version, title, level, teaches: [rule, ...exercise.teaches.slice(1)] },
        ...{ customer: { says, answers }, goal: next },
      },
    });
  };
  return (
    <div className="sheet grid gap-3">
      <TextField
        label="Title"
        value={title}
        maxLength={80}
        onChange={({ target }) => setTitle(target.value)}
      />
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label="Level"
          value={String(level)}
          onChange={({ target }) => setLevel(Number(target.value) as 1)}
          options={[1, 2, 3, 4].map((one) => [String(one), String(one)] as const)}
        />
        <SelectField
          label="What it teaches"
          value={rule}
          onChange={({ target }) => setRule(target.value as RuleId)}
          options={RULES.map((one) => [one, RULE_WORDS[one][0]] as const)}
        />
      </div>
      <Field label="What the customer says" hint="Nothing that tells who it was.">
        {(props) => (
          <textarea
            rows={3}
            maxLength={600}
            {...props}
            value={says}
            onChange={({ target }) => setSays(target.value)}
          />
        )}
      </Field>
      {QUESTIONS.map((about) => (
        <TextField
          key={about}
          label={QUESTION_WORDS[about]}
          value={answers[about] ?? ''}
          maxLength={400}
          onChange={({ target }) => setAnswers({ ...answers, [about]: target.value })}
        />
      ))}
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label="GB to use, at least"
          inputMode="decimal"
          value={usable}
          onChange={({ target }) => setUsable(target.value)}
        />
        <TextField
          label="Most that may be spent"
          hint="Empty: as much as one likes."
          inputMode="decimal"
          value={budget}
          onChange={({ target }) => setBudget(target.value)}
        />
      </div>
      <Tick label="All of it paired" isOn={isPaired} onChange={setPaired} />
      <Tick label="A memory test passed" isOn={isTested} onChange={setTested} />
      <SaveNotice state={changing.state} />
      <SaveNotice state={removing.state} />
      <p className="flex flex-wrap items-center gap-3">
        <Button look="main" onClick={save}>
          Save
        </Button>
        <Link className="link inline-flex min-h-10 items-center" to={`/practice/${id}`}>
          Leave it as it is
        </Link>
        <Button look="quiet" onClick={() => void removing.save({ id })}>
          Remove this exercise
        </Button>
      </p>
    </div>
  );
}

interface TickProps {
  readonly label: string;
  readonly isOn: boolean;
  readonly onChange: (isOn: boolean) => void;
}

function Tick({ label, isOn, onChange }: TickProps) {
  return (
    <label className="flex min-h-10 items-center gap-2">
      <input
        type="checkbox"
        className="size-5"
        checked={isOn}
        onChange={({ target }) => onChange(target.checked)}
      />
      {label}
    </label>
  );
}
