import { useState } from 'react';
import type { FormEvent } from 'react';
import { amountHint } from '#core/explaining';
import { readLabel, serialAmong } from '#core/memory';
import { DRAWER_STATES } from '#core/planning';
import type { DrawerState } from '#core/planning';
import { readAmount } from '#core/quoting';
import { api } from '../app/api.ts';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { SerialField } from '../ui/SerialField.tsx';
import { useSave } from '../ui/useSave.ts';
import { LabelPhoto } from '../visuals/LabelPhoto.tsx';
import { photoHints } from '../visuals/photoHints.ts';
import { LabelReport } from '../visuals/LabelReport.tsx';
import { PlaceField } from './PlaceField.tsx';

/** Puts a module into the drawer by its label. */
export function DrawerForm({ currency }: { readonly currency: string }) {
  const [label, setLabel] = useState('');
  const [origin, setOrigin] = useState('');
  const [place, setPlace] = useState('');
  const [serial, setSerial] = useState('');
  const [state, setState] = useState<DrawerState>('untested');
  const [price, setPrice] = useState('');
  const [cost, setCost] = useState('');
  const [isAsked, setAsked] = useState(false);
  const { data: catalogue } = api.useModulesQuery('');
  const [add] = stockApi.useAddToDrawerMutation();
  // The place stays: a box of modules goes into one drawer.
  const adding = useSave(add, () => {
    setLabel('');
    setOrigin('');
    setSerial('');
    setPrice('');
    setCost('');
    setAsked(false);
  });
  const hints = photoHints(catalogue ?? []);
  const reading = readLabel(label);
  const amounts = { price: readAmount(price, currency), cost: readAmount(cost, currency) };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (!reading.module || amounts.price === undefined || amounts.cost === undefined) return;
    const module = reading.module as never;
    void adding.save({
      ...{ label: label.trim(), module, origin, state, place, serial },
      ...{ price: amounts.price ?? 0, cost: amounts.cost },
    });
  };
  const amountError = (amount: number | null | undefined) =>
    isAsked && amount === undefined ? amountHint(currency) : undefined;
  // A line until there is something to say of it: the list below is what is looked at.
  const isOpen = label !== '' || isAsked;
  return (
    <form noValidate onSubmit={submit} className="sheet mb-4">
      <div
        className={isOpen ? 'grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-[2fr_2fr_1fr]' : ''}
      >
        <div>
          <TextField
            label="Put a module in by its label"
            spellCheck={false}
            value={label}
            error={isAsked && !reading.module ? 'The label is incomplete; see below.' : undefined}
            onChange={({ target }) => setLabel(target.value)}
          />
          <LabelPhoto
            hints={hints}
            onLabel={(text, _photo, codes) => {
              setLabel(text);
              setSerial(serialAmong(codes, hints.partNumbers ?? []) ?? serial);
            }}
          />
        </div>
        {isOpen && (
          <>
            <TextField
              label="Where it came from"
              value={origin}
              maxLength={200}
              onChange={({ target }) => setOrigin(target.value)}
            />
            <PlaceField value={place} onChange={setPlace} />
          </>
        )}
      </div>
      {isOpen && (
        <div className="mt-3 flex flex-wrap items-start gap-3">
          <SelectField
            label="State"
            value={state}
            options={DRAWER_STATES.map((one) => [one, one])}
            onChange={({ target }) => setState(target.value as DrawerState)}
          />
          <div className="w-32">
            <TextField
              label={`Price, ${currency}`}
              value={price}
              inputMode="decimal"
              error={amountError(amounts.price)}
              onChange={({ target }) => setPrice(target.value)}
            />
          </div>
          <div className="w-32">
            <TextField
              label={`Cost, ${currency}`}
              hint="empty: not known"
              value={cost}
              inputMode="decimal"
              error={amountError(amounts.cost)}
              onChange={({ target }) => setCost(target.value)}
            />
          </div>
          <div className="w-64">
            <SerialField value={serial} onChange={setSerial} />
          </div>
          <div className="pt-6">
            <Button type="submit" look="main">
              Put it in
            </Button>
          </div>
        </div>
      )}
      {isOpen && (
        <div className="mt-2" aria-live="polite">
          <LabelReport reading={reading} />
        </div>
      )}
      <SaveNotice state={adding.state} />
    </form>
  );
}
