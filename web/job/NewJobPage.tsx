import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { FieldPath } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { newJob } from '#contract/records';
import type { Customer, Job } from '#contract/records';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Loading } from '../ui/States.tsx';
import { dropDraft, storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { useSave } from '../ui/useSave.ts';
import { signature, useTechnician } from '../ui/useTechnician.ts';
import { CustomerField, sameName, useCustomers } from './CustomerField.tsx';
import { documentsFromFiles } from './evidence/documentsFromFiles.ts';
import { IntakeFields } from './IntakeFields.tsx';
import { intakeFromForm, intakeToForm } from './intakeForm.ts';
import type { IntakeForm } from './intakeForm.ts';
import { MachineFromFiles } from './MachineFromFiles.tsx';

interface Typed extends IntakeForm {
  name: string;
  contact: string;
  machineId: string;
  complaint: string;
  count: string;
}

const DRAFT = 'new-job';
const blank = (): Typed => ({
  ...{ name: '', contact: '', machineId: '', complaint: '', count: '1' },
  ...intakeToForm(),
});

/** Opens a job, or several for like machines: who, which machine, what is wrong, what is agreed. */
export function NewJobPage() {
  const navigate = useNavigate();
  const machines = api.useMachinesQuery('');
  const [initial] = useState(() => ({ ...blank(), ...storedDraft<Partial<Typed>>(DRAFT) }));
  const form = useForm<Typed>({ defaultValues: initial });
  useKeptDraft(DRAFT, form);
  const [taken, setTaken] = useState<Customer>();
  const [isNewcomer, setNewcomer] = useState(false);
  const [files, setFiles] = useState<readonly File[]>([]);
  const name = useWatch({ control: form.control, name: 'name' });
  const known = useCustomers(name);
  const [technician] = useTechnician();
  const [create] = api.useCreateJobMutation();
  const [addEvidence] = api.useAddEvidenceMutation();
  const creating = useSave(create, (job: Job) => {
    dropDraft(DRAFT);
    void keepFiles(job).then(() => navigate(`/jobs/${job.id}/${job.batch ? 'intake' : 'inspect'}`));
  });
  /** Files chosen for the machine become evidence of its job; of a batch's first. */
  const keepFiles = async (job: Job) => {
    const { portions } = await documentsFromFiles(files, signature(technician));
    for (const documents of portions) await addEvidence({ id: job.id, body: { documents } });
  };
  const fail = (field: FieldPath<Typed>, message: string) =>
    form.setError(field, { message }, { shouldFocus: true });

  const submit = (typed: Typed) => {
    const { name: customerName, contact, machineId, complaint, count, ...rest } = typed;
    const intake = intakeFromForm(rest);
    for (const [field, message] of Object.entries(intake.errors))
      fail(field as FieldPath<Typed>, message);
    if (!taken && !isNewcomer && sameName(customerName, known).length > 0) {
      fail('name', 'There is a customer of this name: take them below, or say it is another.');
      return;
    }
    const customer = taken ? { id: taken.id } : { name: customerName, contact };
    const checked = newJob.safeParse({
      ...{ ...intake.terms, customer, machineId, complaint },
      count: Number(count),
    });
    if (checked.success && intake.terms) void creating.save({ body: checked.data });
    for (const { path, message } of checked.error?.issues ?? [])
      if (path[0] === 'customer')
        fail(
          'name',
          customerName.trim()
            ? 'Shorten the customer’s name: 120 characters at most.'
            : 'Enter the customer’s name.',
        );
      else if (path[0] === 'machineId')
        fail('machineId', 'Choose the machine, or describe it first.');
      else if (path[0] === 'count')
        fail('count', message.startsWith('Invalid') ? 'Type a number, 1 to 50.' : message);
      else if (path[0] === 'complaint') fail('complaint', message);
  };
  const { errors } = form.formState;
  const isDoubted = errors.name !== undefined && !taken && sameName(name, known).length > 0;
  return (
    <main className="mx-auto w-full max-w-3xl p-5">
      <h1 className="mb-3 text-answer font-bold">New job</h1>
      <form
        noValidate
        className="sheet grid gap-4"
        onSubmit={(event) => void form.handleSubmit(submit)(event)}
      >
        <CustomerField
          typed={name}
          taken={taken}
          onTake={(customer) => {
            setTaken(customer);
            form.setValue('name', customer.name, { shouldDirty: true });
            form.clearErrors('name');
          }}
          error={errors.name?.message}
          {...form.register('name', {
            onChange: () => {
              setTaken(undefined);
              setNewcomer(false);
            },
          })}
        />
        {isDoubted && (
          <div>
            <Button
              onClick={() => {
                setNewcomer(true);
                form.clearErrors('name');
              }}
            >
              A different customer of this name
            </Button>
          </div>
        )}
        {!taken && (
          <TextField
            label="Contact"
            hint="Telephone or address; may stay empty."
            error={errors.contact?.message}
            {...form.register('contact')}
          />
        )}
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
        <MachineFromFiles
          machines={machines.data ?? []}
          onFiles={setFiles}
          onMachine={(id) => {
            form.clearErrors('machineId');
            // The list with the new machine arrives after this; the choice waits for it.
            void machines
              .refetch()
              .then(() => form.setValue('machineId', id, { shouldDirty: true }));
          }}
        />
        <div className="grid gap-4 sm:grid-cols-[1fr_9rem]">
          <TextField
            label="Complaint"
            hint="In the customer’s words."
            error={errors.complaint?.message}
            {...form.register('complaint')}
          />
          <TextField
            label="Identical machines"
            inputMode="numeric"
            hint="A job each."
            error={errors.count?.message}
            {...form.register('count')}
          />
        </div>
        <IntakeFields form={form} />
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
