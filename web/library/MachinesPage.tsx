import { Link } from 'react-router';
import type { MachineRecord } from '#contract/records';
import { gb, list } from '#core/explaining';
import { api } from '../app/api.ts';
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
            <li key={record.id} className="border-b border-line last:border-0">
              <Link
                to={`/machines/${record.id}`}
                className="flex min-h-12 flex-wrap items-baseline gap-x-4 px-4 py-2"
              >
                <span className="link min-w-64 font-bold break-words">{record.machine.name}</span>
                <span className="text-aside text-muted">{outline(record)}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
