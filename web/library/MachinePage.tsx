import { useParams, useSearchParams } from 'react-router';
import { plainMachine } from '#core/machine';
import { api } from '../app/api.ts';
import { Failed, Loading } from '../ui/States.tsx';
import { MachineEditor } from './MachineEditor.tsx';

const BLANK = plainMachine({
  name: '',
  kind: 'desktop',
  generation: 'DDR4',
  formFactor: 'DIMM',
  channels: 2,
  slotsPerChannel: 2,
});

/** One machine of the library, or a new one. */
export function MachinePage() {
  const { id = '' } = useParams();
  const isNew = id === 'new';
  const [search] = useSearchParams();
  const like = search.get('like') ?? '';
  const similar = api.useMachineQuery(like, { skip: !isNew || like === '' });
  const { data, error, refetch } = api.useMachineQuery(id, {
    skip: isNew,
    refetchOnMountOrArgChange: true,
  });
  return (
    <main className="mx-auto flex w-full max-w-[1400px] grow flex-col px-5 pt-4 max-sm:px-2">
      <h1 className="mb-3 text-answer font-bold break-words">
        {isNew
          ? similar.data
            ? `A new machine, like ${similar.data.machine.name}`
            : 'A new machine'
          : (data?.machine.name ?? 'Machine')}
      </h1>
      {isNew && like !== '' && !similar.data ? (
        similar.error ? (
          <Failed
            failure={similar.error}
            what="the similar machine"
            onRetry={() => void similar.refetch()}
          />
        ) : (
          <Loading what="the similar machine" />
        )
      ) : isNew ? (
        <MachineEditor
          key={`new ${like}`}
          draft={`machine.new${like && `.${like}`}`}
          machine={similar.data ? { ...similar.data.machine, name: '' } : BLANK}
        />
      ) : data ? (
        <MachineEditor key={`${id}`} machine={data.machine} record={data} />
      ) : error ? (
        <Failed failure={error} what="the machine" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the machine" />
      )}
    </main>
  );
}
