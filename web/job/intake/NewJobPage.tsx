import { useEffect } from 'react';
import { useWatch } from 'react-hook-form';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { useFileDrop } from '../../ui/FileDrop.tsx';
import { Next } from '../../ui/Next.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { ProposedActivities } from '../ProposedActivities.tsx';
import { CustomerField } from './CustomerField.tsx';
import { IntakeFields } from './IntakeFields.tsx';
import { MachineChoice } from './MachineChoice.tsx';
import { MachineFromFiles } from './MachineFromFiles.tsx';
import { firstStepOf, useNewJob } from './useNewJob.ts';
import type { NewJobState } from './useNewJob.ts';
import { Page } from '../../ui/Page.tsx';

/** Opens a job, or several for like machines: who, which machine, what is wrong, what is agreed. */
export function NewJobPage() {
  const state = useNewJob();
  const { form, files, choose, creating } = state;
  const { errors } = form.formState;
  const machineId = useWatch({ control: form.control, name: 'machineId' });
  const { handlers } = useFileDrop(files.add);
  const { setFocus } = form;
  useEffect(() => {
    // Where there is a keyboard; on a phone one would cover half the page.
    if (window.matchMedia('(pointer: fine)').matches) setFocus('name');
  }, [setFocus]);
  return (
    <Page title="New job" isNarrow {...handlers}>
      <form noValidate className="sheet grid gap-4" onSubmit={(event) => void state.submit(event)}>
        <MachineFromFiles
          intake={files}
          machineId={machineId}
          isFromFiles={state.isFromFiles}
          onKnown={choose.known}
          onNew={choose.fromFiles}
          likeness={state.likeness}
          onLikeness={choose.likeness}
        />
        <Who state={state} />
        <MachineChoice state={state} />
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
        <IntakeFields form={form} belowWork={<Proposed state={state} />} />
        <SaveNotice state={creating.state} />
        <SaveNotice state={state.adding.state} />
        <div>
          {state.opened ? (
            <Next to={firstStepOf(state.opened)}>Go to the job</Next>
          ) : (
            <Button type="submit" look="main">
              Open the job
            </Button>
          )}
        </div>
      </form>
    </Page>
  );
}

/** The customer and how to reach them. */
function Who({ state }: { readonly state: NewJobState }) {
  const { form, name, taken, isDoubted, take, letGo, takeAsAnother } = state;
  const { errors } = form.formState;
  return (
    <>
      <CustomerField
        typed={name}
        taken={taken}
        onTake={take}
        error={errors.name?.message}
        {...form.register('name', { onChange: letGo })}
      />
      {isDoubted && (
        <div>
          <Button onClick={takeAsAnother}>A different customer of this name</Button>
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
    </>
  );
}

function Proposed({ state: { form } }: { readonly state: NewJobState }) {
  const [work, accepted] = useWatch({ control: form.control, name: ['work', 'activities'] });
  return (
    <ProposedActivities
      words={work}
      accepted={accepted}
      onAccept={(more) =>
        form.setValue('activities', [...accepted, ...more.map(({ name }) => name)], {
          shouldDirty: true,
        })
      }
    />
  );
}
