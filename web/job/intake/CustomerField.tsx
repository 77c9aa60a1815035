import type { Customer } from '#contract/records';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import type { TextFieldProps } from '../../ui/Field.tsx';

interface CustomerFieldProps extends Omit<TextFieldProps, 'label'> {
  readonly typed: string;
  /** The known customer that was taken; typing on lets go of it. */
  readonly taken: Customer | undefined;
  readonly onTake: (customer: Customer) => void;
}

const plain = (name: string) => name.toLowerCase().replaceAll(/[^\p{L}\p{N}]/gu, '');

/** Known customers whose name is the one typed, but for case and signs. */
export const sameName = (typed: string, customers: readonly Customer[]): Customer[] =>
  customers.filter(({ name }) => plain(name) === plain(typed));

/** Searches while a name is typed; a known one is taken with one press. */
export function useCustomers(typed: string): readonly Customer[] {
  const { data } = api.useCustomersQuery(typed.trim().slice(0, 200), {
    skip: typed.trim().length < 2,
  });
  return typed.trim().length < 2 ? [] : (data ?? []);
}

/** The customer's name, with those already known below it. */
export function CustomerField({ typed, taken, onTake, ...field }: CustomerFieldProps) {
  const known = useCustomers(typed);
  return (
    <div>
      <TextField label="Customer" {...field} />
      <div aria-live="polite">
        {taken ? (
          <p className="mt-1 text-aside text-ok">✓ Known{taken.contact && `: ${taken.contact}`}</p>
        ) : (
          known.length > 0 && (
            <ul aria-label="Known customers" className="mt-1 flex flex-wrap gap-2">
              {known.slice(0, 5).map((one) => (
                <li key={one.id}>
                  <Button className="text-left text-aside" onClick={() => onTake(one)}>
                    {one.name}
                    {one.contact && (
                      <span className="font-normal text-muted"> · {one.contact}</span>
                    )}
                  </Button>
                </li>
              ))}
              {known.length > 5 && (
                <li className="self-center text-aside text-muted">
                  and {known.length - 5} more: type on
                </li>
              )}
            </ul>
          )
        )}
      </div>
    </div>
  );
}
