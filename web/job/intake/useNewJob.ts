import { useRef, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { FieldPath } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { Customer, Job } from '#contract/records';
import { foundByFiles, inheritTraits } from '#core/reconciling';
import { api } from '../../app/api.ts';
import { dropDraft, storedDraft, useKeptDraft } from '../../ui/useDraft.ts';
import { useCurrency } from '../../ui/useCurrency.ts';
import { useUsualActivities } from '../../ui/useUsualActivities.ts';
import { useSave } from '../../ui/useSave.ts';
import { documentsFromFiles } from '../evidence/documentsFromFiles.ts';
import { sameName, useCustomers } from './CustomerField.tsx';
import { blankJob, newJobFromForm } from './newJobForm.ts';
import type { NewJobForm } from './newJobForm.ts';
import { useIntakeFiles } from './useIntakeFiles.ts';
import { useMachineChoice } from './useMachineChoice.ts';

const DRAFT = 'new-job';

/** Where a new job goes on. */
export const firstStepOf = ({ id, batch }: Job) => `/jobs/${id}/${batch ? 'intake' : 'inspect'}`;

/** A job being opened: its form, the files that came along, and sending it. */
export function useNewJob() {
  const navigate = useNavigate();
  const machines = api.useMachinesQuery('');
  const currency = useCurrency();
  const usual = useUsualActivities();
  const [initial] = useState(() => ({ ...blankJob(), ...storedDraft<Partial<NewJobForm>>(DRAFT) }));
  const form = useForm<NewJobForm>({ defaultValues: initial });
  useKeptDraft(DRAFT, form);
  // No field of its own holds it; unregistered, its error would stand for ever.
  form.register('machineId');
  const [taken, setTaken] = useState<Customer>();
  const [isNewcomer, setNewcomer] = useState(false);
  const name = useWatch({ control: form.control, name: 'name' });
  const customers = useCustomers(name);
  const isDoubted = !taken && !isNewcomer && sameName(name, customers).length > 0;
  const library = machines.data ?? [];
  const files = useIntakeFiles({
    machines: library,
    isReady: machines.data !== undefined || machines.error !== undefined,
  });
  const read = files.state.type === 'read' ? files.state : undefined;

  const { described, isFromFiles, likeness, choose } = useMachineChoice(form, read);

  const [create] = api.useCreateJobMutation();
  const [addEvidence] = api.useAddEvidenceMutation();
  const adding = useSave(addEvidence);
  const [opened, setOpened] = useState<Job>();
  /** Files beyond what the job itself is sent with. A ref: its answer can be there before the next render. */
  const later = useRef<Awaited<ReturnType<typeof documentsFromFiles>>['portions']>([]);
  const creating = useSave(create, (job: Job) => {
    dropDraft(DRAFT);
    setOpened(job);
    const stored = later.current.map((documents) =>
      adding.save({ id: job.id, body: { documents } }),
    );
    // What is refused is shown here, beside a way to the job.
    void Promise.all(stored).then((all) => all.every(Boolean) && navigate(firstStepOf(job)));
  });
  const fail = (field: FieldPath<NewJobForm>, message: string) =>
    form.setError(field, { message }, { shouldFocus: true });

  const submit = async (typed: NewJobForm) => {
    if (files.state.type === 'reading') return fail('machineId', 'The files are still being read.');
    if (files.state.type === 'failed')
      return fail('machineId', 'The files were not read. Try again above, or leave them out.');
    if (read?.taken.type === 'several-machines')
      return fail('machineId', 'Leave out the files, or drop those of this machine alone.');
    const { portions } = await documentsFromFiles(read?.files ?? []);
    const [documents = [], ...rest] = portions;
    const known = library.find(({ id }) => id === typed.machineId);
    const listed = isFromFiles ? described?.picture.machine : undefined;
    const newMachine = listed && likeness ? inheritTraits(listed, likeness.machine) : listed;
    const machine = newMachine ?? known?.machine;
    const fitted =
      machine && described && foundByFiles(machine, read?.reads ?? [], known?.locators);
    const { job, errors } = newJobFromForm(typed, {
      ...{ taken, newMachine, known: known?.machine, knownAs: described?.key, documents },
      ...{ currency, usual },
      found:
        fitted?.asks.length === 0
          ? { placement: fitted.placement, setting: fitted.setting }
          : undefined,
    });
    if (isDoubted)
      fail('name', 'There is a customer of this name: take them below, or say it is another.');
    for (const [field, message] of Object.entries(errors))
      fail(field as FieldPath<NewJobForm>, message);
    if (!job || isDoubted) return;
    later.current = rest;
    void creating.save({ body: job });
  };

  return {
    ...{ form, machines, files, described, isFromFiles, likeness, choose, name, taken, creating },
    ...{ adding, opened },
    isDoubted: isDoubted && form.formState.errors.name !== undefined,
    take: (customer: Customer) => {
      setTaken(customer);
      form.setValue('name', customer.name, { shouldDirty: true });
      form.clearErrors('name');
    },
    letGo: () => {
      setTaken(undefined);
      setNewcomer(false);
    },
    takeAsAnother: () => {
      setNewcomer(true);
      form.clearErrors('name');
    },
    submit: form.handleSubmit(submit),
  };
}

export type NewJobState = ReturnType<typeof useNewJob>;
