import { useState } from 'react';
import { Link } from 'react-router';
import { jobMachine, passLacking, snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { count } from '#core/explaining';
import {
  TEST_KINDS,
  fingerprint,
  judgeMemoryTest,
  memoryTestState,
  testFieldsFromRows,
} from '#core/proving';
import type { TestKind } from '#core/proving';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { FilePick, TABLES } from '../../ui/FilePick.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { readTable } from '../../ui/table.ts';
import { useSave } from '../../ui/useSave.ts';

interface MemoryTestsProps {
  readonly job: Job;
  readonly isClosed: boolean;
  /** Where faults are looked for, unless that is here. */
  readonly faultAt?: string;
}

/** Memory tests on record, what they say of the set as it is now, and a form for one more. */
export function MemoryTests({ job, isClosed, faultAt }: MemoryTestsProps) {
  const [isOpen, setOpen] = useState(false);
  const [remove] = api.useRemoveMemoryTestMutation();
  const removing = useSave(remove);
  const now = snapshotOf(job, 'as-fitted') ?? snapshotOf(job, 'as-found');
  const print = now && fingerprint(jobMachine(job), now.placement);
  const state =
    now && print !== undefined
      ? memoryTestState(job.memoryTests, { fingerprint: print, setting: now.setting })
      : 'none';
  const needed = passLacking(job);
  return (
    <div className="grid gap-3">
      {state === 'passed' && (
        <Notice kind="ok" title="A memory test passed on what sits in it now" />
      )}
      {state === 'failed' && (
        <Notice
          kind="stop"
          title="A memory test found errors"
          why="One error outweighs any number of passes, until the modules change."
          mend={faultAt ? undefined : 'Answer the checks on this page: they find which part it is.'}
        >
          {faultAt && (
            <Link className="link inline-flex min-h-10 items-center font-bold" to={faultAt}>
              Look for the fault
            </Link>
          )}
        </Notice>
      )}
      {state !== 'passed' && state !== 'failed' && (
        <Notice
          kind={needed ? 'stop' : 'caution'}
          title={
            needed
              ? `Not proven without a memory-test pass: ${needed}`
              : state === 'too short'
                ? 'The memory test was too short to say'
                : state === 'on other modules'
                  ? 'The memory tests ran on other modules or another setting'
                  : 'No memory test is on record'
          }
          why="Before the system starts one full pass is the least; in the running system an hour and a pass."
          mend={isClosed ? undefined : 'Run one, and record it below.'}
        />
      )}
      {job.memoryTests.length > 0 && (
        <ul className="grid gap-1">
          {job.memoryTests.map((test) => {
            const verdict = judgeMemoryTest(test);
            const isOwn =
              test.fingerprint === '*' ||
              (test.fingerprint === print && test.setting === now?.setting);
            return (
              <li key={test.id} className="flex items-start gap-x-3">
                <Mark
                  kind={verdict === 'passed' ? 'ok' : verdict === 'failed' ? 'stop' : 'caution'}
                />
                <span className="min-w-0 grow break-words">
                  <b>{verdict}</b>: {test.kind}, {test.minutes} min,{' '}
                  {test.passes === 1 ? '1 pass' : `${test.passes} passes`},{' '}
                  {count(test.errors, 'error')}
                  {test.tool && `, ${test.tool}`}
                  {test.conditions && `, ${test.conditions}`}
                  <span className="text-aside text-muted">
                    {' '}
                    {test.by}
                    {isOwn ? '' : ' · on other modules or another setting'}
                  </span>
                </span>
                {!isClosed && (
                  <Button
                    look="quiet"
                    className="-mt-2 shrink-0 text-aside"
                    onClick={() => void removing.save({ id: job.id, testId: test.id })}
                  >
                    remove
                  </Button>
                )}
              </li>
            );
          })}
        </ul>
      )}
      <SaveNotice state={removing.state} />
      {!isClosed &&
        (isOpen ? (
          <TestForm job={job} onDone={() => setOpen(false)} />
        ) : (
          <Button className="w-fit" onClick={() => setOpen(true)}>
            Record a memory test
          </Button>
        ))}
    </div>
  );
}

function TestForm({ job, onDone }: { readonly job: Job; readonly onDone: () => void }) {
  const [fields, setFields] = useState({
    ...{ kind: TEST_KINDS[0] as TestKind, minutes: '', passes: '', errors: '0' },
    ...{ tool: '', conditions: '' },
  });
  const [add] = api.useAddMemoryTestMutation();
  const adding = useSave(add, onDone);
  const set =
    (field: keyof typeof fields) =>
    ({ target }: { target: { value: string } }) =>
      setFields({ ...fields, [field]: target.value });
  const figure = (text: string) =>
    /^\d+([.,]\d+)?$/.test(text.trim()) ? Number(text.replace(',', '.')) : undefined;
  const [minutes, passes, errors] = [fields.minutes, fields.passes, fields.errors].map(figure);
  const isWhole = (value: number | undefined) => value !== undefined && Number.isInteger(value);
  const [filled, setFilled] = useState<string>();
  const fill = async (file: File) => {
    const data = await readTable(await file.arrayBuffer());
    const read = testFieldsFromRows(data);
    const told = Object.entries(read).map(([field, value]) => [field, String(value)]);
    setFields({ ...fields, ...(Object.fromEntries(told) as Partial<typeof fields>) });
    setFilled(
      told.length === 0
        ? 'Nothing was found: name columns minutes, passes and errors, or address.'
        : `Read: ${told.map(([field, value]) => `${value} ${field}`).join(', ')}. Fill in the rest.`,
    );
  };
  const [isTried, setTried] = useState(false);
  const isReady = minutes !== undefined && isWhole(passes) && isWhole(errors);
  const errorOf = (isGood: boolean, what: string) => (isTried && !isGood ? what : undefined);
  return (
    <form
      className="grid gap-3 sm:grid-cols-2"
      onSubmit={(event) => {
        event.preventDefault();
        setTried(true);
        if (!isReady || minutes === undefined || passes === undefined || errors === undefined)
          return;
        const { tool, conditions } = fields;
        const kind = TEST_KINDS.find((one) => one === fields.kind) ?? 'not said';
        const body = { kind, minutes, passes, errors, tool, conditions };
        void adding.save({ id: job.id, body });
      }}
    >
      <SelectField
        label="Where it ran"
        value={fields.kind}
        onChange={set('kind')}
        options={TEST_KINDS.map((kind) => [kind, kind])}
      />
      <TextField
        label="Duration, min"
        inputMode="decimal"
        value={fields.minutes}
        onChange={set('minutes')}
        error={errorOf(minutes !== undefined, 'Enter the minutes it ran.')}
      />
      <TextField
        label="Full passes"
        inputMode="numeric"
        value={fields.passes}
        onChange={set('passes')}
        error={errorOf(isWhole(passes), 'Enter how many times it went over all memory.')}
      />
      <TextField
        label="Errors"
        inputMode="numeric"
        value={fields.errors}
        onChange={set('errors')}
        error={errorOf(isWhole(errors), 'Enter how many errors it counted, 0 for none.')}
      />
      <TextField label="Tool" value={fields.tool} onChange={set('tool')} maxLength={80} />
      <TextField
        label="Conditions"
        hint="warm or cold, mains or battery"
        value={fields.conditions}
        onChange={set('conditions')}
        maxLength={300}
      />
      <p className="sm:col-span-2">
        <FilePick
          label="Fill in from its table (CSV)"
          accept={TABLES}
          onFile={(file) => void fill(file)}
        />
        {filled !== undefined && <span className="ml-3 text-aside">{filled}</span>}
      </p>
      <div className="flex gap-3 sm:col-span-2">
        <Button look="main" type="submit">
          Record it
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
      <SaveNotice state={adding.state} />
    </form>
  );
}
