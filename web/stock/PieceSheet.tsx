import { useState } from 'react';
import { WAYS_OUT } from '#contract/drawer';
import type { DrawerRecord, GoneRecord, WayOut } from '#contract/drawer';
import { amountField, amountHint } from '#core/explaining';
import { DRAWER_STATES } from '#core/planning';
import type { DrawerState } from '#core/planning';
import { readAmount } from '#core/quoting';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { SerialField } from '../ui/SerialField.tsx';
import { useSave } from '../ui/useSave.ts';
import { useSteady } from '../ui/useSteady.ts';
import { PlaceField } from './PlaceField.tsx';

interface PieceSheetProps {
  readonly piece: DrawerRecord;
  readonly currency: string;
  readonly onGone: (gone: GoneRecord) => void;
}

/** All that can be done with a module in stock: noted, held for a job, let go of. */
export function PieceSheet({ piece, currency, onGone }: PieceSheetProps) {
  const steady = useSteady(piece) ?? piece;
  return (
    <div className="grid gap-x-8 gap-y-4 py-2 lg:grid-cols-[3fr_2fr]">
      <Notes key={steady.version} piece={steady} currency={currency} />
      <div className="grid content-start gap-4">
        <Holding piece={piece} />
        <Leaving piece={piece} onGone={onGone} />
      </div>
    </div>
  );
}

type NotesProps = Omit<PieceSheetProps, 'onGone'>;

function Notes({ piece, currency }: NotesProps) {
  const { id, version, label, module, isNew } = piece;
  const [place, setPlace] = useState(piece.place);
  const [origin, setOrigin] = useState(piece.origin);
  const [serial, setSerial] = useState(piece.serial);
  const [state, setState] = useState<DrawerState>(piece.state);
  const [price, setPrice] = useState(amountField(piece.price, currency));
  const [cost, setCost] = useState(piece.cost === null ? '' : amountField(piece.cost, currency));
  const [change] = stockApi.useChangeInDrawerMutation();
  const saving = useSave(change);
  const amounts = { price: readAmount(price, currency), cost: readAmount(cost, currency) };
  const isWrong = amounts.price === undefined || amounts.cost === undefined;
  const save = () =>
    void saving.save({
      id,
      body: {
        ...{ label, module: module, isNew, place, origin, serial, state, version },
        ...{ price: amounts.price ?? 0, cost: amounts.cost ?? null },
      },
    });
  const hint = (amount: unknown) => (amount === undefined ? amountHint(currency) : undefined);
  return (
    <form
      noValidate
      className="grid content-start gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isWrong) save();
      }}
    >
      <div className="grid gap-3 sm:grid-cols-3">
        <PlaceField value={place} onChange={setPlace} />
        <SelectField
          label="State"
          value={state}
          options={DRAWER_STATES.map((one) => [one, one])}
          onChange={({ target }) => setState(target.value as DrawerState)}
        />
        <TextField
          label="Where it came from"
          value={origin}
          maxLength={200}
          onChange={({ target }) => setOrigin(target.value)}
        />
        <TextField
          label={`Price, ${currency}`}
          inputMode="decimal"
          value={price}
          error={hint(amounts.price)}
          onChange={({ target }) => setPrice(target.value)}
        />
        <TextField
          label={`Cost, ${currency}`}
          hint="without tax; empty: not known"
          inputMode="decimal"
          value={cost}
          error={hint(amounts.cost)}
          onChange={({ target }) => setCost(target.value)}
        />
        <SerialField value={serial} onChange={setSerial} />
        <div className="sm:col-span-3">
          <Button type="submit" disabled={isWrong}>
            Save
          </Button>
        </div>
      </div>
      <SaveNotice state={saving.state} />
    </form>
  );
}

function Holding({ piece: { id, version, reservedFor } }: { readonly piece: DrawerRecord }) {
  const [number, setNumber] = useState('');
  const [hold] = stockApi.useHoldPieceMutation();
  const holding = useSave(hold, () => setNumber(''));
  const jobNumber = /^\d{1,9}$/.test(number.trim()) ? Number(number) : undefined;
  const save = (job: number | null) => void holding.save({ id, body: { jobNumber: job, version } });
  return (
    <section aria-label="Hold it for a job">
      {reservedFor ? (
        <Button onClick={() => save(null)}>
          Let it go from job {String(reservedFor.number).padStart(4, '0')}
        </Button>
      ) : (
        <form
          className="flex items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (jobNumber !== undefined) save(jobNumber);
          }}
        >
          <div className="w-40">
            <TextField
              label="Hold it for job"
              placeholder="number"
              inputMode="numeric"
              value={number}
              onChange={({ target }) => setNumber(target.value)}
            />
          </div>
          <Button type="submit" disabled={jobNumber === undefined}>
            Hold it
          </Button>
        </form>
      )}
      <SaveNotice state={holding.state} />
    </section>
  );
}

const WAY_WORDS: Readonly<Record<WayOut, string>> = {
  sold: 'Sold over the counter',
  returned: 'Sent back to the supplier',
  'written off': 'Written off: dead or lost',
};

function Leaving({ piece, onGone }: Omit<PieceSheetProps, 'currency'>) {
  const { id, version } = piece;
  const [how, setHow] = useState<WayOut>('sold');
  const [note, setNote] = useState('');
  const [letGo] = stockApi.useLetGoMutation();
  const leaving = useSave(letGo, onGone);
  return (
    <section aria-label="Letting go of it">
      <div className="flex flex-wrap items-end gap-3">
        <SelectField
          label="It leaves stock"
          value={how}
          options={WAYS_OUT.map((way) => [way, WAY_WORDS[way]])}
          onChange={({ target }) => setHow(target.value as WayOut)}
        />
        <div className="grow">
          <TextField
            label="Note"
            maxLength={300}
            value={note}
            onChange={({ target }) => setNote(target.value)}
          />
        </div>
        <Button onClick={() => void leaving.save({ id, body: { how, note, version } })}>
          Take it out
        </Button>
      </div>
      <SaveNotice state={leaving.state} />
    </section>
  );
}
