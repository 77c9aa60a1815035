import { useDeferredValue, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { ListedMachine } from '#contract/records';
import { count } from '#core/explaining';
import { decodeText } from '#core/inventory';
import { MACHINE_KINDS } from '#core/machine';
import { GENERATIONS } from '#core/memory';
import { api } from '../app/api.ts';
import { MoreLines } from '../ui/MoreLines.tsx';
import { machineFromFile } from './machineFile.ts';
import { askedOf, findMachines, machineOutline } from './machineList.ts';
import type { MachinesAsked } from './machineList.ts';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { Page } from '../ui/Page.tsx';

const PAGE = 100;

/** The machine library: found by words and kind, the busiest or by name. */
export function MachinesPage() {
  const { data, error, refetch } = api.useMachinesQuery('', { refetchOnMountOrArgChange: true });
  const [query, setQuery] = useSearchParams();
  const [shown, setShown] = useState(PAGE);
  const asked = askedOf(query);
  const deferred = useDeferredValue(asked);
  const found = useMemo(() => findMachines(data ?? [], deferred), [data, deferred]);
  const ask = (more: Partial<MachinesAsked>) => {
    const next = Object.entries({ ...asked, ...more }).filter(([, value]) => value !== '');
    setQuery(Object.fromEntries(next), { replace: true });
    setShown(PAGE);
  };
  return (
    <Page
      title="Machines"
      actions={
        <div className="ml-auto flex flex-wrap items-center gap-3">
          <ImportMachines />
          <Link
            to="/machines/new"
            className="flex min-h-10 items-center rounded-md bg-teal px-4 font-bold text-on-teal"
          >
            Describe a machine
          </Link>
        </div>
      }
    >
      {!data &&
        (error ? (
          <Failed failure={error} what="the machines" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the machines" />
        ))}
      {data?.length === 0 && (
        <Empty title="No machine is described yet.">
          Describe one: channels, slots, soldered memory and limits. Files dropped on a new job
          describe theirs.
        </Empty>
      )}
      {data && data.length > 0 && (
        <>
          <Filters machines={data} asked={asked} onAsk={ask} />
          {found.length === 0 && (
            <Empty title="No machine is like that.">Take a word or a filter away.</Empty>
          )}
          {found.length > 0 && (
            <ul className="sheet grid p-0!">
              {found.slice(0, shown).map((record) => (
                <MachineLine key={record.id} record={record} />
              ))}
            </ul>
          )}
          <MoreLines
            shown={Math.min(shown, found.length)}
            total={found.length}
            isAllHere
            onMore={() => setShown(shown + PAGE)}
          />
        </>
      )}
    </Page>
  );
}

interface FiltersProps {
  readonly machines: readonly ListedMachine[];
  readonly asked: MachinesAsked;
  readonly onAsk: (more: Partial<MachinesAsked>) => void;
}

function Filters({ machines, asked, onAsk }: FiltersProps) {
  const generations = GENERATIONS.filter((one) =>
    machines.some(({ machine }) => machine.generations.includes(one)),
  );
  const choices = [
    ['Kind', 'kind', 'any kind', MACHINE_KINDS.map((one) => [one, one] as const)],
    ['Generation', 'generation', 'any memory', generations.map((one) => [one, one] as const)],
    ['Order', 'order', 'by name', [['jobs', 'most jobs first'] as const]],
  ] as const;
  return (
    <div role="search" className="mb-3 flex flex-wrap items-center gap-2">
      <input
        type="search"
        aria-label="Search the machines"
        placeholder="Name, slots, soldered …"
        className="input w-64 max-sm:w-full"
        value={asked.words}
        onChange={({ target }) => onAsk({ words: target.value })}
      />
      {choices.map(([label, key, none, options]) => (
        <select
          key={key}
          aria-label={label}
          className="input w-auto"
          value={asked[key]}
          onChange={({ target }) => onAsk({ [key]: target.value })}
        >
          <option value="">{none}</option>
          {options.map(([value, text]) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
      ))}
    </div>
  );
}

function MachineLine({ record }: { readonly record: ListedMachine }) {
  const { id, machine, jobs } = record;
  return (
    <li className="flex flex-wrap items-center border-b border-line pr-3 last:border-0">
      <Link
        to={`/machines/${id}`}
        className="flex min-h-12 min-w-0 grow basis-72 flex-wrap items-center gap-x-4 px-4 py-2"
      >
        <span className="link min-w-0 basis-64 font-bold break-words">{machine.name}</span>
        <span className="min-w-0 text-aside text-muted">{machineOutline(record)}</span>
      </Link>
      {jobs > 0 && (
        <Link
          to={`/?search=${encodeURIComponent(machine.name)}`}
          className="link flex min-h-10 items-center px-3 text-aside whitespace-nowrap"
          aria-label={`${count(jobs, 'job')} of ${machine.name}`}
        >
          {count(jobs, 'job')}
        </Link>
      )}
      <Link
        to={`/machines/new?like=${id}`}
        aria-label={`Start a new machine from ${machine.name}`}
        className="link flex min-h-10 items-center px-1 text-aside whitespace-nowrap"
      >
        start from this
      </Link>
    </li>
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
