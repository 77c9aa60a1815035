import { useState } from 'react';
import type { FormEvent } from 'react';
import { MACHINE_KINDS } from '#core/machine';
import { amountField, amountHint } from '#core/explaining';
import { PAPERS, isCurrency, readAmount } from '#core/quoting';
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
import { useSteady } from '../ui/useSteady.ts';
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
      {data ? (
        <ShopForm key={data.version} shop={data} />
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

function ShopForm({ shop }: { readonly shop: Shop }) {
  const { terms, version } = shop;
  const [text, setText] = useState<Record<string, string>>(() => ({
    name: terms.name,
    address: terms.address,
    currency: terms.currency,
    taxPercent: String(terms.taxPercent),
    creditPerGb: amountField(terms.creditPerGb, terms.currency),
    validDays: String(terms.validDays),
    warranty: terms.warranty,
    paper: terms.paper,
    marginPercent: terms.marginPercent === null ? '' : String(terms.marginPercent),
    roundPricesTo: amountField(terms.roundPricesTo, terms.currency),
    labelSheet: terms.labelSheet,
    school: terms.school,
    needMargin: String(Math.round(terms.needMargin * 100)),
    dates: terms.dates,
    numbers: terms.numbers,
    ...Object.fromEntries(
      MACHINE_KINDS.map((kind) => [kind, amountField(terms.labour[kind], terms.currency)]),
    ),
  }));
  const isOwner = useMay('owner');
  const [isAsked, setAsked] = useState(false);
  const [change] = api.useChangeShopMutation();
  const saving = useSave(change);
  const currency = text.currency ?? '';
  const amount = (name: string) => readAmount(text[name] ?? '', currency) ?? undefined;
  const errors: Record<string, string | undefined> = {
    name: text.name?.trim() ? undefined : 'Enter the name of the shop.',
    currency: isCurrency(currency) ? undefined : 'Three letters of a currency in use, such as EUR.',
    taxPercent:
      Number(text.taxPercent) >= 0 && Number(text.taxPercent) <= 60 ? undefined : 'From 0 to 60 %.',
    validDays:
      /^\d+$/.test(text.validDays ?? '') && Number(text.validDays) > 0
        ? undefined
        : 'A day or more.',
    creditPerGb: amount('creditPerGb') === undefined ? amountHint(currency) : undefined,
    needMargin:
      /^\d+$/.test(text.needMargin ?? '') && Number(text.needMargin) <= 300
        ? undefined
        : 'From 0 to 300 %.',
    roundPricesTo: (amount('roundPricesTo') ?? 0) < 1 ? amountHint(currency) : undefined,
    marginPercent:
      text.marginPercent === '' ||
      (Number(text.marginPercent) >= 0 && Number(text.marginPercent) <= 400)
        ? undefined
        : 'From 0 to 400 %, or empty.',
    ...Object.fromEntries(
      MACHINE_KINDS.map((kind) => [
        kind,
        amount(kind) === undefined ? amountHint(currency) : undefined,
      ]),
    ),
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (Object.values(errors).some((error) => error !== undefined)) return;
    const next: ShopTerms = {
      name: text.name ?? '',
      address: text.address ?? '',
      currency: text.currency ?? 'EUR',
      taxPercent: Number(text.taxPercent),
      creditPerGb: amount('creditPerGb') ?? 0,
      validDays: Number(text.validDays),
      warranty: text.warranty ?? '',
      paper: text.paper === 'Letter' ? 'Letter' : 'A4',
      marginPercent: text.marginPercent === '' ? null : Number(text.marginPercent),
      roundPricesTo: amount('roundPricesTo') ?? 1,
      labelSheet: text.labelSheet ?? 'roll-90-50',
      school: SCHOOLS.find((one) => one === text.school) ?? 'balanced',
      needMargin: Number(text.needMargin) / 100,
      activities: terms.activities,
      dates: DATE_STYLES.find((one) => one === text.dates) ?? terms.dates,
      numbers: NUMBER_STYLES.find((one) => one === text.numbers) ?? terms.numbers,
      labour: Object.fromEntries(
        MACHINE_KINDS.map((kind) => [kind, amount(kind) ?? 0]),
      ) as ShopTerms['labour'],
    };
    void saving.save({ terms: next, version });
  };
  const field = (name: string, label: string, hint?: string) => (
    <TextField
      label={label}
      hint={hint}
      value={text[name] ?? ''}
      error={isAsked ? errors[name] : undefined}
      onChange={({ target }) => setText({ ...text, [name]: target.value })}
    />
  );
  return (
    <form noValidate onSubmit={submit} className="sheet">
      <fieldset disabled={!isOwner} className="grid gap-4">
        <div className="grid gap-3 sm:grid-cols-2">
          {field('name', 'Name', 'at the head of quotes and reports')}
          <Field label="Address" hint="as it stands on quotes and reports, line by line">
            {(props) => (
              <textarea
                rows={3}
                {...props}
                value={text.address ?? ''}
                onChange={({ target }) => setText({ ...text, address: target.value })}
              />
            )}
          </Field>
          {field('currency', 'Currency')}
          {field('taxPercent', 'Tax included in prices, %')}
          {field('validDays', 'Quotes hold for, days')}
          {field(
            'creditPerGb',
            'Credit for pulled memory, per GB',
            '0 = pulled modules stay the customer’s',
          )}
          <SelectField
            label="Paper of quotes and reports"
            value={text.paper ?? 'A4'}
            onChange={({ target }) => setText({ ...text, paper: target.value })}
            options={PAPERS.map((one) => [one, one])}
          />
          <SelectField
            label="Labels of modules"
            value={text.labelSheet ?? ''}
            onChange={({ target }) => setText({ ...text, labelSheet: target.value })}
            options={LABEL_SHEETS.map(({ id, name }) => [id, name])}
          />
          <SelectField
            label="Days are written"
            value={text.dates ?? ''}
            onChange={({ target }) => setText({ ...text, dates: target.value })}
            options={DATE_STYLES.map((one) => [one, DATE_SAMPLES[one]])}
          />
          <SelectField
            label="Numbers are written"
            value={text.numbers ?? ''}
            onChange={({ target }) => setText({ ...text, numbers: target.value })}
            options={NUMBER_STYLES.map((one) => [one, NUMBER_SAMPLES[one]])}
          />
          <SelectField
            label="Matching school of new jobs"
            value={text.school ?? ''}
            onChange={({ target }) => setText({ ...text, school: target.value })}
            options={SCHOOLS.map((one) => [one, one])}
          />
          {field('needMargin', 'Margin on the need of new jobs, %')}
          {field('marginPercent', 'Margin on parts, %', 'on their cost; empty: prices are typed')}
          {field('roundPricesTo', 'Prices made of costs are rounded up to')}
        </div>
        {field(
          'warranty',
          'Warranty on fitted parts',
          'as reports say it; empty: as the law gives it',
        )}
        <fieldset>
          <legend className="mb-2 font-bold">Labour for opening and fitting, tax included</legend>
          <div className="grid gap-3 sm:grid-cols-3">
            {MACHINE_KINDS.map((kind) => (
              <div key={kind}>{field(kind, kind)}</div>
            ))}
          </div>
        </fieldset>
        <div className="flex items-center gap-4">
          {isOwner ? (
            <Button type="submit" look="main">
              Save
            </Button>
          ) : (
            <span className="text-muted">The owner sets these.</span>
          )}
          {saving.state.type === 'done' && (
            <span role="status">Saved. Quotes already issued stay as they are.</span>
          )}
        </div>
        <SaveNotice
          state={saving.state}
          sides={(yours, theirs) => [
            ['Name', (yours as { terms: ShopTerms }).terms.name, (theirs as Shop).terms.name],
          ]}
        />
      </fieldset>
    </form>
  );
}
