import { useState } from 'react';
import type { FormEvent } from 'react';
import type { ModuleRecord } from '#contract/records';
import { gb } from '#core/explaining';
import { moduleSummary, profileSummary, readLabel } from '#core/memory';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { LabelReport } from '../visuals/LabelReport.tsx';

const DRAFT = 'tembrix.form.module';

/** The module catalogue: labels as typed, and what was read from them. */
export function ModulesPage() {
  const { data, error, refetch } = api.useModulesQuery('', { refetchOnMountOrArgChange: true });
  const [edited, setEdited] = useState<ModuleRecord>();
  return (
    <main className="mx-auto w-full max-w-[1400px] px-5 py-4">
      <h1 className="mb-3 text-answer font-bold">Modules</h1>
      <ModuleForm key={edited?.id ?? 'new'} edited={edited} onDone={() => setEdited(undefined)} />
      {!data &&
        (error ? (
          <Failed failure={error} what="the modules" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the modules" />
        ))}
      {data?.length === 0 && (
        <Empty title="The catalogue is empty.">
          Type a label above; it is suggested wherever labels are typed.
        </Empty>
      )}
      {data && data.length > 0 && (
        <div className="sheet overflow-x-auto p-0!">
          <table className="w-full text-left">
            <caption className="sr-only">Modules of the catalogue</caption>
            <thead>
              <tr className="border-b border-edge text-aside text-muted">
                {['Size', 'Runs at', 'Form', 'Profile', 'Label as typed', ''].map((head) => (
                  <th key={head} scope="col" className="px-3 py-2 font-normal">
                    {head || <span className="sr-only">Actions</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.map((record) => (
                <tr key={record.id} className="border-b border-line last:border-0">
                  <td className="px-3 font-bold whitespace-nowrap">{gb(record.module.capacity)}</td>
                  <td className="figure px-3">{moduleSummary(record.module)}</td>
                  <td className="px-3">{record.module.formFactor}</td>
                  <td className="figure px-3 text-aside">{profileSummary(record.module) ?? '–'}</td>
                  <td className="figure max-w-80 px-3 text-aside break-words">{record.label}</td>
                  <td className="px-3">
                    <Button
                      look="quiet"
                      aria-label={`Correct ${record.label}`}
                      onClick={() => setEdited(record)}
                    >
                      correct
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </main>
  );
}

interface ModuleFormProps {
  readonly edited: ModuleRecord | undefined;
  readonly onDone: () => void;
}

function ModuleForm({ edited, onDone }: ModuleFormProps) {
  const [label, setLabel] = useState(edited?.label ?? localStorage.getItem(DRAFT) ?? '');
  const [isAsked, setAsked] = useState(false);
  const finish = () => {
    localStorage.removeItem(DRAFT);
    setLabel('');
    setAsked(false);
    onDone();
  };
  const [create] = api.useCreateModuleMutation();
  const [change] = api.useChangeModuleMutation();
  const creating = useSave(create, finish);
  const changing = useSave(change, finish);
  const reading = readLabel(label);
  const type = (text: string) => {
    setLabel(text);
    if (!edited) localStorage.setItem(DRAFT, text);
  };
  const send = (version?: number) => {
    const { module } = readLabel(label);
    setAsked(true);
    if (!module) return;
    const body = { label: label.trim(), module: module as never };
    if (edited)
      void changing.save({ id: edited.id, body: { ...body, version: version ?? edited.version } });
    else void creating.save(body);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send();
  };
  return (
    <form noValidate onSubmit={submit} className="sheet mb-4">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-72 grow">
          <TextField
            label={edited ? 'Correct the label' : 'Add a module by its label'}
            spellCheck={false}
            value={label}
            error={
              isAsked && !reading.module ? 'This label does not suffice yet; see below.' : undefined
            }
            onChange={({ target }) => type(target.value)}
          />
        </div>
        <Button type="submit" look="main">
          {edited ? 'Save the correction' : 'Add'}
        </Button>
        {edited && <Button onClick={finish}>Leave as it was</Button>}
      </div>
      {(label !== '' || isAsked) && (
        <div className="mt-2" aria-live="polite">
          <LabelReport reading={reading} />
        </div>
      )}
      <SaveNotice state={creating.state} />
      <SaveNotice
        state={changing.state}
        sides={(yours, theirs) => [
          ['Label', (yours as ModuleRecord).label, (theirs as ModuleRecord).label],
        ]}
        onKeepMine={(theirs) => send((theirs as ModuleRecord).version)}
        onTakeTheirs={finish}
      />
    </form>
  );
}
