import { useState } from 'react';
import type { FormEvent } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { FieldPath } from 'react-hook-form';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { MachineRecord } from '#contract/records';
import { count } from '#core/explaining';
import { unknownTraits } from '#core/machine';
import type { Machine } from '#core/machine';
import { api } from '../app/api.ts';
import { AnswerBar, Answer } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { download } from '../ui/download.ts';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { useSave } from '../ui/useSave.ts';
import { useBase } from '../ui/useSteady.ts';
import { BoardEditor } from './BoardEditor.tsx';
import { AccessFields, LimitFields, SeenFields, TraitFields } from './MachineFields.tsx';
import { formFromMachine, machineFromForm } from './machineForm.ts';
import type { MachineForm } from './machineForm.ts';
import { machineFileName, machineToFile } from './machineFile.ts';
import { UnknownsSheet } from './UnknownsSheet.tsx';

interface MachineEditorProps {
  readonly machine: Machine;
  /** Absent for a new machine. */
  readonly record?: MachineRecord | undefined;
  /** What is typed is kept under this name. */
  readonly draft?: string | undefined;
}

/** A machine that is nowhere yet. */
const NEW = { id: '', version: 0 };

/** A machine being described: what is typed, what it comes to, and saving it. */
function useMachineEditor({ machine, record, draft }: MachineEditorProps) {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const draftName = draft ?? `machine.${record?.id ?? 'new'}`;
  const [initial] = useState(() => storedDraft<MachineForm>(draftName) ?? formFromMachine(machine));
  const form = useForm<MachineForm>({ defaultValues: initial });
  const settle = useKeptDraft(draftName, form);
  const typed = useWatch({ control: form.control }) as MachineForm;
  const described = machineFromForm(typed, machine).machine;

  const done = (saved: MachineRecord) => {
    settle(record ? formFromMachine(saved.machine) : form.getValues());
    if (!record)
      void navigate(search.get('then') === 'job' ? '/jobs/new' : `/machines/${saved.id}`);
  };
  const [create] = api.useCreateMachineMutation();
  const [change] = api.useChangeMachineMutation();
  const creating = useSave(create, done);
  const changing = useSave(change, done);
  const isTouched = form.formState.isDirty || storedDraft(draftName) !== undefined;
  const base = useBase(record ?? NEW, isTouched, () => {
    if (record) settle(formFromMachine(record.machine));
  });
  const send = (next: Machine, version = record && base) =>
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
  return {
    ...{ form, described, done, creating, changing, slotsError },
    sendMine: (version: number) => {
      const mine = machineFromForm(form.getValues(), machine).machine;
      if (mine) void send(mine, version);
    },
    submit: (event: FormEvent) => {
      // An error on the list of slots belongs to no single input, and would block every later try.
      form.clearErrors();
      void form.handleSubmit(submit)(event);
    },
  };
}

/** Every trait that decides how memory runs in a machine. Blank is "not known", and is allowed. */
export function MachineEditor({ machine, record, draft }: MachineEditorProps) {
  const editor = useMachineEditor({ machine, record, draft });
  const { form, described, creating, changing, slotsError } = editor;
  return (
    <form noValidate className="flex grow flex-col" onSubmit={editor.submit}>
      <div className="grid grow items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_20.5rem]">
        <div className="sheet grid min-w-0 gap-5">
          <SeenFields form={form} />
          <section aria-label="Slots and soldered memory">
            <p className="mb-2">
              <b>Slot board</b>
              <span className="ml-2 text-aside text-muted">
                in physical order, controller side first; names and colours as printed
              </span>
            </p>
            <BoardEditor form={form} />
          </section>
          {slotsError && <Notice alert kind="stop" title={slotsError} />}
          <LimitFields form={form} />
          <TraitFields form={form} />
          <AccessFields form={form} />
          <SaveNotice state={creating.state} />
          <SaveNotice
            state={changing.state}
            sides={(yours, theirs) =>
              differences(
                (yours as { machine: Machine }).machine,
                (theirs as MachineRecord).machine,
              )
            }
            onKeepMine={(theirs) => editor.sendMine((theirs as MachineRecord).version)}
            onTakeTheirs={(theirs) => {
              changing.clear();
              editor.done(theirs as MachineRecord);
            }}
          />
        </div>
        <Beside described={described} record={record} />
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
          {described ? count(unknownTraits(described).length, 'trait') : 'not complete yet'}
        </Answer>
        {(creating.state.type === 'done' || changing.state.type === 'done') &&
          !form.formState.isDirty && <Answer label="Saved">✓</Answer>}
      </AnswerBar>
    </form>
  );
}

interface BesideProps {
  /** Absent while what is typed is not complete. */
  readonly described: Machine | undefined;
  readonly record: MachineRecord | undefined;
}

function Beside({ described, record }: BesideProps) {
  return (
    <aside aria-label="What is not known" className="grid gap-3.5">
      {described && <UnknownsSheet machine={described} />}
      {record && (
        <section className="sheet">
          <h2 className="mb-1 font-bold">How it opens</h2>
          <Link
            className="link flex min-h-10 items-center text-aside font-bold"
            to={`/machines/${record.id}/cover`}
          >
            {record.coverMap
              ? `Cover map: ${count(record.coverMap.parts.length, 'part')}`
              : 'Draw the cover map'}
          </Link>
        </section>
      )}
      {described && (
        <section className="sheet">
          <h2 className="mb-2 font-bold">As a file</h2>
          <p className="mb-2 text-aside text-muted">
            To keep, or for another shop: the library takes it in again.
          </p>
          <Button
            onClick={() =>
              download(machineFileName(described), 'application/json', machineToFile(described))
            }
          >
            Export as JSON
          </Button>
        </section>
      )}
    </aside>
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
