import { shopTerms } from '#contract/quotes';
import { amountField, amountHint } from '#core/explaining';
import { MACHINE_KINDS } from '#core/machine';
import type { MachineKind } from '#core/machine';
import { readAmount } from '#core/quoting';
import type { ShopTerms } from '#core/quoting';

/** The shop's terms as they are typed: text throughout. */
export type ShopForm = Readonly<
  Record<Exclude<keyof ShopTerms, 'labour' | 'activities'>, string>
> & { readonly labour: Readonly<Record<MachineKind, string>> };

const percentText = (share: number) => String(Number((share * 100).toFixed(2)));

/** The form of the terms in force. */
export function formFromTerms({ labour, activities: _apart, ...terms }: ShopTerms): ShopForm {
  const amount = (value: number) => amountField(value, terms.currency);
  return {
    ...terms,
    taxPercent: String(terms.taxPercent),
    creditPerGb: amount(terms.creditPerGb),
    validDays: String(terms.validDays),
    marginPercent: terms.marginPercent === null ? '' : String(terms.marginPercent),
    roundPricesTo: amount(terms.roundPricesTo),
    needMargin: percentText(terms.needMargin),
    labour: Object.fromEntries(
      MACHINE_KINDS.map((kind) => [kind, amount(labour[kind])]),
    ) as ShopForm['labour'],
  };
}

const number = (typed: string): number =>
  typed.trim() === '' ? NaN : Number(typed.trim().replace(',', '.'));

/**
 * What the form says, or what is wrong with it by field (`labour.laptop`). The activities, which have a
 * form of their own, stay as they are.
 */
export function termsFromForm(
  form: ShopForm,
  { activities }: ShopTerms,
): { terms?: ShopTerms; errors: Readonly<Record<string, string>> } {
  const currency = form.currency.trim().toUpperCase();
  const amount = (typed: string) => readAmount(typed, currency) ?? NaN;
  const checked = shopTerms.safeParse({
    ...{ ...form, currency, activities },
    taxPercent: number(form.taxPercent),
    creditPerGb: amount(form.creditPerGb),
    validDays: number(form.validDays),
    marginPercent: form.marginPercent.trim() === '' ? null : number(form.marginPercent),
    roundPricesTo: amount(form.roundPricesTo),
    needMargin: number(form.needMargin) / 100,
    labour: Object.fromEntries(MACHINE_KINDS.map((kind) => [kind, amount(form.labour[kind])])),
  });
  if (checked.success) return { terms: checked.data, errors: {} };
  const errors: Record<string, string> = {};
  for (const { path, message, code } of checked.error.issues) {
    const isAmount = ['labour', 'creditPerGb', 'roundPricesTo'].includes(String(path[0]));
    errors[path.join('.')] ??=
      isAmount && code === 'invalid_type'
        ? amountHint(currency)
        : message.startsWith('Invalid input')
          ? 'Type a figure, such as 20.'
          : message;
  }
  return { errors };
}
