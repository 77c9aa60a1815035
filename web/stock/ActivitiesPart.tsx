import { useForm, useFieldArray } from 'react-hook-form';
import { usualActivities } from '#contract/need';
import type { Shop } from '#contract/quotes';
import { decimals } from '#core/units';
import { USUAL_ACTIVITIES } from '#core/need';
import type { Activity } from '#core/need';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { FoldedSheet } from '../ui/Folded.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';

interface Typed {
  activities: { name: string; low: string; high: string }[];
}

const typedOf = (activities: readonly Activity[]): Typed => ({
  activities: activities.map(({ name, low, high }) => ({
    ...{ name, low: decimals(low), high: decimals(high) },
  })),
});

/** What was typed, or what is wrong with it by row and field. */
function activitiesOf({ activities }: Typed) {
  const figure = (text: string) => (text.trim() === '' ? NaN : Number(text.replace(',', '.')));
  return usualActivities.safeParse(
    activities.map(({ name, low, high }) => ({ name, low: figure(low), high: figure(high) })),
  );
}

const GRID = 'grid grid-cols-[minmax(0,1fr)_5rem_5rem_4.5rem] items-start gap-x-3 gap-y-1';

/** The shop's own list of what customers do, with where the ranges of a need start. */
export function ActivitiesPart({ shop }: { readonly shop: Shop }) {
  const form = useForm<Typed>({ defaultValues: typedOf(shop.terms.activities) });
  const { fields, append, remove, replace } = useFieldArray({
    control: form.control,
    name: 'activities',
  });
  const [change] = api.useChangeShopMutation();
  const saving = useSave(change);
  const { errors } = form.formState;
  const submit = (typed: Typed) => {
    const { success, data, error } = activitiesOf(typed);
    if (success)
      void saving.save({ terms: { ...shop.terms, activities: data }, version: shop.version });
    for (const { path, message } of error?.issues ?? []) {
      const [at = 0, field = 'low'] = path;
      form.setError(`activities.${String(at)}.${String(field)}` as 'activities.0.low', {
        message: message.startsWith('Invalid') ? 'Type GB, such as 1.5.' : message,
      });
    }
  };
  return (
    <div className="mt-4">
      <FoldedSheet title="Usual activities" hint={`${fields.length}, offered on every need`}>
        <p className="mb-3 text-aside text-muted">
          What your customers do, and the GB it keeps in use. Offered on every need; each figure can
          be changed there.
        </p>
        <form noValidate onSubmit={(event) => void form.handleSubmit(submit)(event)}>
          <div className={GRID}>
            <span className="text-aside text-muted">activity</span>
            <span className="text-right text-aside text-muted">least, GB</span>
            <span className="text-right text-aside text-muted">most, GB</span>
            <span />
            {fields.map((field, at) => (
              <Row
                key={field.id}
                form={form}
                at={at}
                error={errors.activities?.[at]}
                onRemove={() => remove(at)}
              />
            ))}
          </div>
          <div className="mt-3 flex flex-wrap items-center gap-4">
            <Button type="submit" look="main">
              Save the activities
            </Button>
            <Button onClick={() => append({ name: '', low: '1', high: '2' })}>Add one</Button>
            <Button look="quiet" onClick={() => replace(typedOf(USUAL_ACTIVITIES).activities)}>
              Back to the list of a new shop
            </Button>
            {saving.state.type === 'done' && (
              <span role="status">Saved. Needs already stated stay as they are.</span>
            )}
          </div>
          <SaveNotice
            state={saving.state}
            sides={(yours, theirs) => [
              [
                'Usual activities',
                String((yours as Pick<Shop, 'terms'>).terms.activities.length),
                String((theirs as Shop).terms.activities.length),
              ],
            ]}
          />
        </form>
      </FoldedSheet>
    </div>
  );
}

interface RowProps {
  readonly form: ReturnType<typeof useForm<Typed>>;
  readonly at: number;
  readonly error: Partial<Record<keyof Typed['activities'][0], { message?: string }>> | undefined;
  readonly onRemove: () => void;
}

function Row({ form, at, error, onRemove }: RowProps) {
  const name = form.watch(`activities.${at}.name`);
  const said = error?.name?.message ?? error?.low?.message ?? error?.high?.message;
  return (
    <>
      <input
        aria-label={`Name of activity ${at + 1}`}
        aria-invalid={error?.name !== undefined}
        className="input min-w-0"
        {...form.register(`activities.${at}.name`)}
      />
      {(['low', 'high'] as const).map((end) => (
        <input
          key={end}
          inputMode="decimal"
          aria-label={`${name || `Activity ${at + 1}`}: ${end === 'low' ? 'least' : 'most'}, GB`}
          aria-invalid={error?.[end] !== undefined}
          className="input figure text-right"
          {...form.register(`activities.${at}.${end}`)}
        />
      ))}
      <Button look="quiet" aria-label={`Remove ${name || `activity ${at + 1}`}`} onClick={onRemove}>
        remove
      </Button>
      {said && <p className="col-span-full text-aside font-bold text-stop">✕ {said}</p>}
    </>
  );
}
