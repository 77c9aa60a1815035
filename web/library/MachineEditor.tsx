import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { FieldPath } from 'react-hook-form';
import { useNavigate, useSearchParams } from 'react-router';
import type { MachineRecord } from '#contract/records';
import type { Machine } from '#core/machine';
import { api } from '../app/api.ts';
import { AnswerBar, Answer } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { dropDraft, storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { useSave } from '../ui/useSave.ts';
import { SlotBoard } from '../visuals/SlotBoard.tsx';
import { fixedBoard } from '../visuals/fixedBoard.ts';
import { LimitFields, SeenFields, SlotFields, TraitFields } from './MachineFields.tsx';
import { formFromMachine, machineFromForm } from './machineForm.ts';
import type { MachineForm } from './machineForm.ts';

interface MachineEditorProps {
  readonly machine: Machine;
  /** Absent for a new machine. */
  readonly record?: MachineRecord | undefined;
}

const unknowns = (machine: Machine): number =>
  JSON.stringify(machine).split('"unknown"').length - 1;

/** Every trait that decides how memory runs in a machine. Blank is "not known", and is allowed. */
export function MachineEditor({ machine, record }: MachineEditorProps) {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const draftName = `machine.${record?.id ?? 'new'}`;
  const [initial] = useState(() => storedDraft<MachineForm>(draftName) ?? formFromMachine(machine));
  const form = useForm<MachineForm>({ defaultValues: initial });
  useKeptDraft(draftName, form);
  const typed = useWatch({ control: form.control }) as MachineForm;
  const described = machineFromForm(typed, machine).machine;

  const done = (saved: MachineRecord) => {
    dropDraft(draftName);
    if (record) form.reset(formFromMachine(saved.machine));
    else void navigate(search.get('then') === 'job' ? '/jobs/new' : `/machines/${saved.id}`);
  };
  const [create] = api.useCreateMachineMutation();
  const [change] = api.useChangeMachineMutation();
  const creating = useSave(create, done);
  const changing = useSave(change, done);
  const send = (next: Machine, version = record?.version) =>
    record && version !== undefined
      ? changing.save({ id: record.id, body: { machine: next, version } })
      : creating.save({ machine: next });
  const submit = (values: MachineForm) => {
    const result = machineFromForm(values, machine);
    for (const [field, message] of Object.entries(result.errors))
      form.setError(field as FieldPath<MachineForm>, { message }, { shouldFocus: true });
    if (result.machine) void send(result.machine);
  };
  const slotsError = (form.formState.errors.slots as { message?: string } | undefined)?.message;
  return (
    <form
      noValidate
      className="flex grow flex-col"
      onSubmit={(event) => {
        // An error on the list of slots belongs to no single input, and would block every later try.
        form.clearErrors();
        void form.handleSubmit(submit)(event);
      }}
    >
      <div className="sheet grid grow gap-5">
        <SeenFields form={form} />
        <SlotFields form={form} />
        {slotsError && <Notice alert kind="stop" title={slotsError} />}
        {described && (
          <section aria-label="As it lies">
            <SlotBoard machine={described} board={fixedBoard(described)} isFixed />
          </section>
        )}
        <LimitFields form={form} />
        <TraitFields form={form} />
        <SaveNotice state={creating.state} />
        <SaveNotice
          state={changing.state}
          sides={(yours, theirs) =>
            differences((yours as { machine: Machine }).machine, (theirs as MachineRecord).machine)
          }
          onKeepMine={(theirs) => {
            const mine = machineFromForm(form.getValues(), machine).machine;
            if (mine) void send(mine, (theirs as MachineRecord).version);
          }}
          onTakeTheirs={(theirs) => {
            changing.clear();
            done(theirs as MachineRecord);
          }}
        />
      </div>
      <AnswerBar
        label="This machine"
        actions={
          <Button type="submit" look="main">
            {record ? 'Save the machine' : 'Add the machine'}
          </Button>
        }
      >
        <Answer label="Not known">
          {described ? `${unknowns(described)} traits` : 'not complete yet'}
        </Answer>
        {(creating.state.type === 'done' || changing.state.type === 'done') &&
          !form.formState.isDirty && <Answer label="Saved">✓</Answer>}
      </AnswerBar>
    </form>
  );
}

/** Fields on which two descriptions differ, as they are typed. */
function differences(mine: Machine, theirs: Machine): [string, string, string][] {
  const [a, b] = [formFromMachine(mine), formFromMachine(theirs)];
  const text = (value: unknown) =>
    typeof value === 'string' ? value || 'not known' : JSON.stringify(value);
  return (Object.keys(a) as (keyof MachineForm)[])
    .filter((key) => text(a[key]) !== text(b[key]))
    .map((key) => [key, text(a[key]), text(b[key])]);
}
