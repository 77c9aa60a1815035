import type { Door } from '#contract/measuring';
import { measuringApi } from '../app/measuringApi.ts';
import { ListenForm } from '../ui/ListenForm.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';

/** The door customers' machines reach the measuring page by: shut until the owner opens it. */
export function MeasuringDoor() {
  const { data, error, refetch } = measuringApi.useDoorQuery();
  if (data) return <DoorForm key={data.version} door={data} />;
  return error ? (
    <Failed failure={error} what="the measuring door" onRetry={() => void refetch()} />
  ) : (
    <Loading what="the measuring door" />
  );
}

function DoorForm({ door: { version, ...standing } }: { readonly door: Door }) {
  const [change] = measuringApi.useChangeDoorMutation();
  const saving = useSave(change);
  return (
    <section className="sheet grid gap-3" aria-label="Measuring door">
      <h2 className="font-bold">Measuring door</h2>
      <p>
        Customers’ machines on the shop’s network reach the measuring page here, on a port of its
        own. Nothing else of Tembrix can be reached there: no jobs, no customers. It can only take a
        result that carries a link’s token.
      </p>
      <ListenForm
        {...standing}
        state={saving.state}
        onSave={(terms) => void saving.save({ terms, version })}
      />
    </section>
  );
}
