import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { Button } from '../../ui/Button.tsx';
import { Combobox } from '../../ui/Combobox.tsx';
import { TextField } from '../../ui/Field.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { machineChoices } from '../../ui/machineChoices.ts';
import { Loading } from '../../ui/States.tsx';
import type { NewJobState } from './useNewJob.ts';

/** One of the library, or the one the files describe under a name of its own. */
export function MachineChoice({ state }: { readonly state: NewJobState }) {
  const { form, machines, isFromFiles, choose } = state;
  const { errors } = form.formState;
  const machineId = useWatch({ control: form.control, name: 'machineId' });
  if (isFromFiles)
    return (
      <div>
        <TextField
          label="Machine"
          hint="New: it goes into the library under this name."
          maxLength={120}
          error={errors.machineName?.message ?? errors.machineId?.message}
          {...form.register('machineName')}
        />
        {(machines.data ?? []).length > 0 && (
          <Button look="quiet" className="text-aside" onClick={() => choose.known({ id: '' })}>
            It is one of the library
          </Button>
        )}
      </div>
    );
  if (machines.data)
    return (
      <Combobox
        label="Machine"
        placeholder="Name, kind or generation"
        error={errors.machineId?.message}
        hint={
          <>
            Not in the list?{' '}
            <Link className="link" to="/machines/new?then=job">
              Describe the machine
            </Link>
          </>
        }
        choices={machineChoices(machines.data)}
        value={machineId}
        onChange={(id) => choose.known({ id })}
      />
    );
  return machines.error ? (
    <Notice
      kind="caution"
      title="The machines could not be fetched"
      why="The server does not answer."
    />
  ) : (
    <Loading what="the machines" />
  );
}
