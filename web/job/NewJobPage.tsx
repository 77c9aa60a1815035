import { useId, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { newJob } from '#contract/records';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Loading } from '../ui/States.tsx';
import { dropDraft, storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { useSave } from '../ui/useSave.ts';

interface Typed {
  name: string;
  contact: string;
  machineId: string;
  complaint: string;
}

const DRAFT = 'new-job';

/** Opens a job: who, which machine, what is wrong. */
export function NewJobPage() {
  const navigate = useNavigate();
  const machines = api.useMachinesQuery('');
  const [initial] = useState(
    () => storedDraft<Typed>(DRAFT) ?? { name: '', contact: '', machineId: '', complaint: '' },
  );
  const form = useForm<Typed>({ defaultValues: initial });
  useKeptDraft(DRAFT, form);
  const names = useId();
  const name = useWatch({ control: form.control, name: 'name' });
  const customers = api.useCustomersQuery(name, {
    skip: name.trim().length < 2 || name.length > 200,
  });
  const [create] = api.useCreateJobMutation();
  const creating = useSave(create, (job) => {
    dropDraft(DRAFT);
    void navigate(`/jobs/${job.id}/inspect`);
  });
  const submit = ({ name: customerName, contact, machineId, complaint }: Typed) => {
    const known = customers.data?.find((one) => one.name === customerName.trim());
    const customer = { name: customerName, contact: contact || known?.contact || '' };
    const checked = newJob.safeParse({ customer, machineId, complaint });
    if (checked.success) void creating.save({ body: checked.data });
    else reportErrors(checked.error.issues, { name: customerName });
  };
  const reportErrors = (
    issues: readonly { path: PropertyKey[]; message: string }[],
    typed: { name: string },
  ) => {
    for (const { path, message } of issues) {
      if (path[0] === 'customer')
        form.setError('name', {
          message: typed.name.trim()
            ? 'Shorten the customer’s name: 120 characters at most.'
            : 'Enter the customer’s name.',
        });
      else if (path[0] === 'machineId')
        form.setError('machineId', { message: 'Choose the machine, or describe it first.' });
      else form.setError('complaint', { message });
    }
  };
  const { errors } = form.formState;
  return (
    <main className="mx-auto w-full max-w-3xl p-5">
      <h1 className="mb-3 text-answer font-bold">New job</h1>
      <form
        noValidate
        className="sheet grid gap-4"
        onSubmit={(event) => void form.handleSubmit(submit)(event)}
      >
        <TextField
          label="Customer"
          list={names}
          error={errors.name?.message}
          {...form.register('name')}
        />
        <datalist id={names}>
          {customers.data?.map(({ id, name: known }) => (
            <option key={id} value={known} />
          ))}
        </datalist>
        <TextField
          label="Contact"
          hint="Telephone or address; may stay empty."
          error={errors.contact?.message}
          {...form.register('contact')}
        />
        {machines.data ? (
          <SelectField
            label="Machine"
            error={errors.machineId?.message}
            hint={
              <>
                Not in the list?{' '}
                <Link className="link" to="/machines/new?then=job">
                  Describe the machine
                </Link>
              </>
            }
            options={[
              ['', 'choose …'],
              ...machines.data.map(({ id, machine }) => [id, machine.name] as const),
            ]}
            {...form.register('machineId')}
          />
        ) : machines.error ? (
          <Notice
            kind="caution"
            title="The machines could not be fetched"
            why="The server does not answer."
          />
        ) : (
          <Loading what="the machines" />
        )}
        <TextField
          label="Complaint"
          hint="In the customer’s words."
          error={errors.complaint?.message}
          {...form.register('complaint')}
        />
        <SaveNotice state={creating.state} />
        <div>
          <Button type="submit" look="main">
            Open the job
          </Button>
        </div>
      </form>
    </main>
  );
}
