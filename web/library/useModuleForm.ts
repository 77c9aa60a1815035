import { useState } from 'react';
import type { FormEvent } from 'react';
import type { ModuleRecord } from '#contract/records';
import { readInventory } from '#core/inventory';
import { amountField, amountHint } from '#core/explaining';
import { readLabel, writeLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { readAmount } from '#core/quoting';
import { priceFromCost } from '#core/stock';
import { moduleOfClaim } from '#core/reconciling';
import { api } from '../app/api.ts';
import { useSave } from '../ui/useSave.ts';

const DRAFT = 'tembrix.form.module';

/** How a module can be had, as typed. */
export interface OfferForm {
  readonly supplier: string;
  readonly article: string;
  readonly units: string;
  readonly price: string;
  readonly cost: string;
  readonly stock: string;
  readonly leadDays: string;
  /** Machines of the library it was proven in. */
  readonly verifiedOn: readonly string[];
}

const offerOf = (edited: ModuleRecord | undefined, currency: string): OfferForm => ({
  supplier: edited?.supplier ?? '',
  article: edited?.article ?? '',
  units: String(edited?.units ?? 1),
  price: edited?.price == null ? '' : amountField(edited.price, currency),
  cost: edited?.cost == null ? '' : amountField(edited.cost, currency),
  stock: edited?.stock == null ? '' : String(edited.stock),
  leadDays: edited?.leadDays == null ? '' : String(edited.leadDays),
  verifiedOn: edited?.verifiedOn ?? [],
});

const whole = (text: string) => (/^\d{1,6}$/.test(text) ? Number(text) : undefined);

/** The offer as it is sent, and what is wrong with what was typed. */
function readOffer(offer: OfferForm, currency: string) {
  const price = readAmount(offer.price, currency);
  const cost = readAmount(offer.cost, currency);
  const units = whole(offer.units);
  const stock = whole(offer.stock);
  const leadDays = whole(offer.leadDays);
  const amountFault = `${amountHint(currency)} Or leave it empty.`;
  const faults: Partial<Record<keyof OfferForm, string>> = {
    ...(price === undefined && { price: amountFault }),
    ...(cost === undefined && { cost: amountFault }),
    ...((units === undefined || units < 1 || units > 16) && {
      units: 'A pack holds 1 to 16 modules.',
    }),
    ...(offer.stock !== '' && stock === undefined && { stock: 'A whole number, or empty.' }),
    ...(offer.leadDays !== '' &&
      (leadDays ?? 999) > 365 && { leadDays: 'Days, 365 at most, or empty.' }),
  };
  const { supplier, article, verifiedOn } = offer;
  const body = {
    ...{ supplier, article, verifiedOn: [...verifiedOn] },
    units: units ?? 1,
    price: price ?? null,
    cost: cost ?? null,
    stock: stock ?? null,
    leadDays: leadDays ?? null,
  };
  return { faults, body };
}

interface ModuleFormGrounds {
  readonly edited: ModuleRecord | undefined;
  readonly currency: string;
  readonly onDone: () => void;
}

/** A module being added to the catalogue or corrected there: what is typed, read and sent. */
export function useModuleForm({ edited, currency, onDone }: ModuleFormGrounds) {
  const [label, setLabel] = useState(edited?.label ?? localStorage.getItem(DRAFT) ?? '');
  const [image, setImage] = useState<{ name: string; module: MemoryModule | undefined }>();
  const [isAsked, setAsked] = useState(false);
  const [offer, setOffer] = useState(() => offerOf(edited, currency));
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
  const { data: shop } = api.useShopQuery();
  const { faults, body } = readOffer(offer, currency);
  const reading = readLabel(label);
  const module = image?.module ?? reading.module;
  /** What the shop's margin makes of the cost, where that differs from the price. */
  const made = shop && body.cost !== null ? priceFromCost(body.cost, shop.terms) : null;
  const send = (version?: number) => {
    setAsked(true);
    if (!module || Object.keys(faults).length > 0) return;
    const next = { ...body, label: label.trim(), module: module as never };
    if (edited)
      void changing.save({ id: edited.id, body: { ...next, version: version ?? edited.version } });
    else void creating.save(next);
  };
  return {
    ...{ label, reading, image, offer, isAsked, finish, send, creating, changing, removing },
    faults: isAsked ? faults : {},
    isIncomplete: isAsked && !module,
    made: made === body.price ? null : made,
    set: (change: Partial<OfferForm>) => setOffer((now) => ({ ...now, ...change })),
    type: (text: string) => {
      setLabel(text);
      setImage(undefined);
      if (!edited) localStorage.setItem(DRAFT, text);
    },
    readImage: async (file: File) => {
      const { devices } = readInventory(new Uint8Array(await file.arrayBuffer()));
      const found = devices[0] && moduleOfClaim(devices[0]);
      if (found) setLabel(writeLabel(found));
      setImage({ name: file.name, module: found });
    },
    remove: () => edited && void removing.save(edited.id),
    submit: (event: FormEvent) => {
      event.preventDefault();
      send();
    },
  };
}

export type ModuleFormState = ReturnType<typeof useModuleForm>;
