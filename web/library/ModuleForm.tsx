import { useState } from 'react';
import type { FormEvent } from 'react';
import type { ListedMachine, ModuleRecord } from '#contract/records';
import { readInventory } from '#core/inventory';
import { amountField, amountHint, money } from '#core/explaining';
import { readLabel, writeLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { readAmount } from '#core/quoting';
import { priceFromCost } from '#core/stock';
import { moduleOfClaim } from '#core/reconciling';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';
import { LabelPhoto } from '../visuals/LabelPhoto.tsx';
import { LabelReport } from '../visuals/LabelReport.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { machineChoices } from '../ui/machineChoices.ts';

const DRAFT = 'tembrix.form.module';

interface ModuleFormProps {
  readonly edited: ModuleRecord | undefined;
  readonly currency: string;
  readonly machines: readonly ListedMachine[];
  readonly onDone: () => void;
}

/** A module by its label or its EEPROM image, and how it can be had. */
export function ModuleForm({ edited, currency, machines, onDone }: ModuleFormProps) {
  const [label, setLabel] = useState(edited?.label ?? localStorage.getItem(DRAFT) ?? '');
  const [image, setImage] = useState<{ name: string; module: MemoryModule | undefined }>();
  const [isAsked, setAsked] = useState(false);
  const [offer, setOffer] = useState(() => ({
    supplier: edited?.supplier ?? '',
    article: edited?.article ?? '',
    units: String(edited?.units ?? 1),
    price: edited?.price == null ? '' : amountField(edited.price, currency),
    cost: edited?.cost == null ? '' : amountField(edited.cost, currency),
    stock: edited?.stock == null ? '' : String(edited.stock),
    leadDays: edited?.leadDays == null ? '' : String(edited.leadDays),
    verifiedOn: edited?.verifiedOn ?? [],
  }));
  const finish = () => {
    localStorage.removeItem(DRAFT);
    setLabel('');
    setImage(undefined);
    setAsked(false);
    onDone();
  };
  const [create] = api.useCreateModuleMutation();
  const [change] = api.useChangeModuleMutation();
  const [remove] = api.useRemoveModuleMutation();
  const creating = useSave(create, finish);
  const changing = useSave(change, finish);
  const removing = useSave(remove, finish);
  const reading = readLabel(label);
  const cost = readAmount(offer.cost, currency);
  const { data: shop } = api.useShopQuery();
  const made = shop && cost != null ? priceFromCost(cost, shop.terms) : null;
  const price = readAmount(offer.price, currency);
  const whole = (text: string) => (/^\d{1,6}$/.test(text) ? Number(text) : undefined);
  const units = whole(offer.units);
  const errors = {
    price: price === undefined ? `${amountHint(currency)} Or leave it empty.` : undefined,
    cost: cost === undefined ? `${amountHint(currency)} Or leave it empty.` : undefined,
    units:
      units === undefined || units < 1 || units > 16 ? 'A pack holds 1 to 16 modules.' : undefined,
    stock:
      offer.stock !== '' && whole(offer.stock) === undefined
        ? 'A whole number, or empty.'
        : undefined,
    leadDays:
      offer.leadDays !== '' && (whole(offer.leadDays) ?? 999) > 365
        ? 'Days, 365 at most, or empty.'
        : undefined,
  };
  const type = (text: string) => {
    setLabel(text);
    setImage(undefined);
    if (!edited) localStorage.setItem(DRAFT, text);
  };
  const readImage = async (file: File) => {
    const { devices } = readInventory(new Uint8Array(await file.arrayBuffer()));
    const module = devices[0] && moduleOfClaim(devices[0]);
    if (module) setLabel(writeLabel(module));
    setImage({ name: file.name, module });
  };
  const send = (version?: number) => {
    const module = image?.module ?? readLabel(label).module;
    setAsked(true);
    if (!module || Object.values(errors).some((error) => error !== undefined)) return;
    const { supplier, article, stock, leadDays, verifiedOn } = offer;
    const body = {
      label: label.trim(),
      module: module as never,
      ...{ supplier, article, verifiedOn: [...verifiedOn] },
      units: units ?? 1,
      price: price ?? null,
      cost: cost ?? null,
      stock: whole(stock) ?? null,
      leadDays: whole(leadDays) ?? null,
    };
    if (edited)
      void changing.save({ id: edited.id, body: { ...body, version: version ?? edited.version } });
    else void creating.save(body);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send();
  };
  const field = (name: Exclude<keyof typeof offer, 'verifiedOn'>, text: string, hint?: string) => (
    <TextField
      label={text}
      hint={hint}
      value={offer[name]}
      maxLength={80}
      error={isAsked && name in errors ? errors[name as keyof typeof errors] : undefined}
      onChange={({ target }) => setOffer({ ...offer, [name]: target.value })}
    />
  );
  return (
    <form noValidate onSubmit={submit} className="sheet mb-4">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-72 grow">
          <TextField
            label={edited ? 'Correct the label' : 'Add a module by its label'}
            spellCheck={false}
            value={label}
            error={
              isAsked && !reading.module && !image?.module
                ? 'The label is incomplete; see below.'
                : undefined
            }
            onChange={({ target }) => type(target.value)}
          />
          <LabelPhoto hints={{}} onLabel={type} />
        </div>
        <label className="text-aside">
          <span className="block font-bold">or by its EEPROM image</span>
          <input
            type="file"
            accept=".spd,.bin,.hex,.txt"
            className="max-w-56 file:mr-2 file:min-h-8 file:rounded file:border file:border-solid file:border-edge file:bg-sheet file:px-3 file:text-ink"
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              if (file) void readImage(file);
              target.value = '';
            }}
          />
        </label>
        <Button type="submit" look="main">
          {edited ? 'Save the correction' : 'Add'}
        </Button>
        {edited && <Button onClick={finish}>Leave as it was</Button>}
        {edited && (
          <Button look="quiet" onClick={() => void removing.save(edited.id)}>
            delete it from the catalogue
          </Button>
        )}
      </div>
      {image && (
        <p className="mt-2 text-aside" role="status">
          {image.module
            ? `${image.name}: read in full; its own times count, not the label’s.`
            : `${image.name} is no image of a module. Nothing was changed.`}
        </p>
      )}
      {(label !== '' || isAsked) && (
        <>
          <div className="mt-2" aria-live="polite">
            <LabelReport reading={reading} />
          </div>
          <div className="mt-3 grid gap-3 sm:grid-cols-3 lg:grid-cols-7">
            {field('supplier', 'Supplier')}
            {field('article', 'Their article')}
            {field('units', 'Modules in pack')}
            {field(
              'price',
              `Price, ${currency}`,
              'of the pack, tax included; empty = not for sale',
            )}
            {field('cost', `Cost, ${currency}`, 'of the pack, without tax; empty = not known')}
            {field('stock', 'Packs in stock', 'empty = not known')}
            {field('leadDays', 'Days to arrive', 'empty = not known')}
          </div>
          {made !== null && made !== price && (
            <p className="mt-2 text-aside">
              By the shop’s margin it would be sold for {money(made, currency)}.{' '}
              <Button
                look="quiet"
                onClick={() => setOffer({ ...offer, price: amountField(made, currency) })}
              >
                Take that price
              </Button>
            </p>
          )}
          <div className="mt-3 max-w-md">
            <Combobox
              // A machine that was added leaves the field empty for the next.
              key={offer.verifiedOn.length}
              label="Proven by us in"
              placeholder="add a machine"
              value=""
              choices={machineChoices(machines.filter(({ id }) => !offer.verifiedOn.includes(id)))}
              onChange={(id) =>
                id !== '' && setOffer({ ...offer, verifiedOn: [...offer.verifiedOn, id] })
              }
            />
          </div>
          {offer.verifiedOn.length > 0 && (
            <ul className="mt-1 flex flex-wrap gap-x-4">
              {offer.verifiedOn.map((id) => {
                const name = machines.find((one) => one.id === id)?.machine.name ?? 'a machine';
                return (
                  <li key={id} className="flex items-center gap-1 text-aside">
                    {name}
                    <Button
                      look="quiet"
                      aria-label={`Not proven in ${name}`}
                      onClick={() =>
                        setOffer({
                          ...offer,
                          verifiedOn: offer.verifiedOn.filter((one) => one !== id),
                        })
                      }
                    >
                      take back
                    </Button>
                  </li>
                );
              })}
            </ul>
          )}
        </>
      )}
      <SaveNotice state={creating.state} />
      <SaveNotice state={removing.state} />
      <SaveNotice
        state={changing.state}
        sides={(yours, theirs) => [
          ['Label', (yours as ModuleRecord).label, (theirs as ModuleRecord).label],
        ]}
        onKeepMine={(theirs) => send((theirs as ModuleRecord).version)}
        onTakeTheirs={finish}
      />
    </form>
  );
}
