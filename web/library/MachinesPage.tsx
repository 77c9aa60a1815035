import { useState } from 'react';
import { Link } from 'react-router';
import { decodeText } from '#core/inventory';
import type { MachineRecord } from '#contract/records';
import { gb, list } from '#core/explaining';
import { api } from '../app/api.ts';
import { machineFromFile } from './machineFile.ts';
import { Empty, Failed, Loading } from '../ui/States.tsx';

function outline({ machine }: MachineRecord): string {
  const { kind, generations, formFactor, channels, slots, soldered } = machine;
  const onBoard = soldered.reduce((sum, { part }) => sum + part.capacity, 0);
  return [
    kind,
    list(generations, 'or'),
    `${channels.length} ${channels.length === 1 ? 'channel' : 'channels'}`,
    slots.length === 0
      ? 'no slots'
      : `${slots.length} ${formFactor} ${slots.length === 1 ? 'slot' : 'slots'}`,
    onBoard > 0 && `${gb(onBoard)} soldered`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** The machine library. */
export function MachinesPage() {
  const { data, error, refetch } = api.useMachinesQuery('', { refetchOnMountOrArgChange: true });
  return (
    <main className="mx-auto w-full max-w-[1400px] px-5 py-4">
      <div className="mb-3 flex items-center gap-3">
        <h1 className="mr-auto text-answer font-bold">Machines</h1>
        <ImportMachines />
        <Link
          to="/machines/new"
          className="flex min-h-10 items-center rounded-md bg-teal px-4 font-bold text-on-teal"
        >
          Describe a machine
        </Link>
      </div>
      {!data &&
        (error ? (
          <Failed failure={error} what="the machines" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the machines" />
        ))}
      {data?.length === 0 && (
        <Empty title="No machine is described yet.">
          Describe one: channels, slots, soldered memory and limits.
        </Empty>
      )}
      {data && data.length > 0 && (
        <ul className="sheet grid p-0!">
          {data.map((record) => (
            <li
              key={record.id}
              className="flex items-center border-b border-line pr-3 last:border-0"
            >
              <Link
                to={`/machines/${record.id}`}
                className="flex min-h-12 min-w-0 grow flex-wrap items-center gap-x-4 px-4 py-2"
              >
                <span className="link min-w-64 font-bold break-words">{record.machine.name}</span>
                <span className="text-aside text-muted">{outline(record)}</span>
              </Link>
              <Link
                to={`/machines/new?like=${record.id}`}
                aria-label={`Start a new machine from ${record.machine.name}`}
                className="link flex min-h-10 items-center text-aside whitespace-nowrap"
              >
                start from this
              </Link>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}

/** Takes machines in from files; what is wrong with one is said, and nothing of it is kept. */
function ImportMachines() {
  const [create] = api.useCreateMachineMutation();
  const [said, setSaid] = useState<readonly { name: string; faults: readonly string[] }[]>([]);
  const read = async (files: readonly File[]) => {
    const results = [];
    for (const file of files) {
      const { machine, faults } = machineFromFile(
        decodeText(new Uint8Array(await file.arrayBuffer())),
      );
      const saved = machine && (await create({ machine }));
      results.push({
        name: file.name,
        faults: saved?.error ? ['The server did not take it. Try again.'] : faults,
      });
    }
    setSaid(results);
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      {said.map(({ name, faults }) => (
        <p key={name} role="status" className="max-w-md text-aside">
          {faults.length === 0 ? (
            <b className="text-ok">✓ {name} is in the library</b>
          ) : (
            <span className="break-words">
              <b className="text-stop">✕ {name}:</b> {faults.slice(0, 3).join(' ')}
            </span>
          )}
        </p>
      ))}
      <label className="flex min-h-10 cursor-pointer items-center rounded-md border border-edge bg-sheet px-4 font-bold focus-within:outline-3 focus-within:outline-copper">
        Import
        <input
          type="file"
          multiple
          accept=".json,application/json"
          className="sr-only"
          onChange={({ target }) => {
            void read([...(target.files ?? [])]);
            target.value = '';
          }}
        />
      </label>
    </div>
  );
}
