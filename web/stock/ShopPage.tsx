import { useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import type { FieldPath, UseFormReturn } from 'react-hook-form';
import { MACHINE_KINDS } from '#core/machine';
import { PAPERS } from '#core/quoting';
import type { ShopTerms } from '#core/quoting';
import type { Shop } from '#contract/quotes';
import { SCHOOLS } from '#core/matching';
import { LABEL_SHEETS } from '#core/stock';
import { DATE_STYLES, NUMBER_STYLES } from '#core/units';
import type { DateStyle, NumberStyle } from '#core/units';
import { api } from '../app/api.ts';
import { ActivitiesPart } from './ActivitiesPart.tsx';
import { LogoPart } from './LogoPart.tsx';
import { BackupPart } from './BackupPart.tsx';
import { JobFromFile } from './JobFromFile.tsx';
import { MeasuringDoor } from './MeasuringDoor.tsx';
import { Button } from '../ui/Button.tsx';
import { Field, SelectField, TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useMay } from '../ui/useMay.ts';
import { useSave } from '../ui/useSave.ts';
import { storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { useBase, useSteady } from '../ui/useSteady.ts';
import { formFromTerms, termsFromForm } from './shopForm.ts';
import type { ShopForm as ShopTyped } from './shopForm.ts';
import { Page } from '../ui/Page.tsx';

const DATE_SAMPLES: Readonly<Record<DateStyle, string>> = {
  'day first': '25 Nov 2026, 14:05',
  'month first': 'Nov 25, 2026, 2:05 PM',
  'year first': '2026-11-25 14:05',
};
const NUMBER_SAMPLES: Readonly<Record<NumberStyle, string>> = {
  point: '1,234.50',
  comma: '1.234,50',
  'comma and spaces': '1 234,50',
  'point and marks': '1’234.50',
};

/** What the shop charges and promises: every plan and quote counts with it. */
export function ShopPage() {
  const { data: newest, error, refetch } = api.useShopQuery();
  const data = useSteady(newest);
  const isOwner = useMay('owner');
  return (
    <Page title="Shop" isNarrow>
      {newest ? (
        <ShopForm shop={newest} />
      ) : error ? (
        <Failed failure={error} what="the shop’s terms" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the shop’s terms" />
      )}
      {isOwner && (
        <>
          {data && <ActivitiesPart key={`activities ${data.version}`} shop={data} />}
          {data && <LogoPart hasLogo={data.hasLogo} />}
          <div className="mt-4">
            <MeasuringDoor />
          </div>
          <BackupPart />
        </>
      )}
      <JobFromFile />
    </Page>
  );
}

/** The shop's terms being typed, kept while they are, and saved. */
function useShopForm({ terms, version }: Shop) {
  // A draft is of the terms it began from: over newer ones it would undo what somebody set.
  const draft = `shop.${version}`;
  const [initial] = useState(() => storedDraft<ShopTyped>(draft) ?? formFromTerms(terms));
  const form = useForm<ShopTyped>({ defaultValues: initial });
  const settle = useKeptDraft(draft, form);
  const isTouched = form.formState.isDirty || storedDraft(draft) !== undefined;
  const row = useMemo(() => ({ id: '', version }), [version]);
  const base = useBase(row, isTouched, () => settle(formFromTerms(terms)));
  const [change] = api.useChangeShopMutation();
  const saving = useSave(change, (saved) => settle(formFromTerms(saved.terms)));
  const send = (values: ShopTyped, from = base) => {
    const result = termsFromForm(values, terms);
    for (const [field, message] of Object.entries(result.errors))
      form.setError(field as FieldPath<ShopTyped>, { message }, { shouldFocus: true });
    if (result.terms) void saving.save({ terms: result.terms, version: from });
  };
  return { form, saving, settle, send };
}

function ShopForm({ shop }: { readonly shop: Shop }) {
  const { form, saving, settle, send } = useShopForm(shop);
  const isOwner = useMay('owner');
  return (
    <form
      noValidate
      className="sheet"
      onSubmit={(event) => void form.handleSubmit((values) => send(values))(event)}
    >
      <fieldset disabled={!isOwner} className="grid gap-4">
        <TermsFields form={form} />
        <div className="flex items-center gap-4">
          {isOwner ? (
            <Button type="submit" look="main">
              Save
            </Button>
          ) : (
            <span className="text-muted">The owner sets these.</span>
          )}
          {saving.state.type === 'done' && !form.formState.isDirty && (
            <span role="status">Saved. Quotes already issued stay as they are.</span>
          )}
        </div>
        <SaveNotice
          state={saving.state}
          sides={(yours, theirs) => [
            ['Name', (yours as { terms: ShopTerms }).terms.name, (theirs as Shop).terms.name],
          ]}
          onKeepMine={(theirs) => send(form.getValues(), (theirs as Shop).version)}
          onTakeTheirs={(theirs) => {
            saving.clear();
            settle(formFromTerms((theirs as Shop).terms));
          }}
        />
      </fieldset>
    </form>
  );
}

function TermsFields({ form }: { readonly form: UseFormReturn<ShopTyped> }) {
  const { errors } = form.formState;
  const at = (name: Exclude<keyof ShopTyped, 'labour'>) => ({
    ...form.register(name),
    error: errors[name]?.message,
  });
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField label="Name" hint="at the head of quotes and reports" {...at('name')} />
        <Field
          label="Address"
          hint="as it stands on quotes and reports, line by line"
          error={errors.address?.message}
        >
          {(props) => <textarea rows={3} {...form.register('address')} {...props} />}
        </Field>
        <TextField label="Currency" {...at('currency')} />
        <TextField label="Tax included in prices, %" {...at('taxPercent')} />
        <TextField label="Quotes hold for, days" {...at('validDays')} />
        <TextField
          label="Credit for pulled memory, per GB"
          hint="0 = pulled modules stay the customer’s"
          {...at('creditPerGb')}
        />
        <SelectField
          label="Paper of quotes and reports"
          options={PAPERS.map((one) => [one, one])}
          {...at('paper')}
        />
        <SelectField
          label="Labels of modules"
          options={LABEL_SHEETS.map(({ id, name }) => [id, name])}
          {...at('labelSheet')}
        />
        <SelectField
          label="Days are written"
          options={DATE_STYLES.map((one) => [one, DATE_SAMPLES[one]])}
          {...at('dates')}
        />
        <SelectField
          label="Numbers are written"
          options={NUMBER_STYLES.map((one) => [one, NUMBER_SAMPLES[one]])}
          {...at('numbers')}
        />
        <SelectField
          label="Matching school of new jobs"
          options={SCHOOLS.map((one) => [one, one])}
          {...at('school')}
        />
        <TextField label="Margin on the need of new jobs, %" {...at('needMargin')} />
        <TextField
          label="Margin on parts, %"
          hint="on their cost; empty: prices are typed"
          {...at('marginPercent')}
        />
        <TextField label="Prices made of costs are rounded up to" {...at('roundPricesTo')} />
      </div>
      <TextField
        label="Warranty on fitted parts"
        hint="as reports say it; empty: as the law gives it"
        {...at('warranty')}
      />
      <fieldset>
        <legend className="mb-2 font-bold">Labour for opening and fitting, tax included</legend>
        <div className="grid gap-3 sm:grid-cols-3">
          {MACHINE_KINDS.map((kind) => (
            <TextField
              key={kind}
              label={kind}
              {...form.register(`labour.${kind}`)}
              error={errors.labour?.[kind]?.message}
            />
          ))}
        </div>
      </fieldset>
    </>
  );
}
