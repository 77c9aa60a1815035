import { useId } from 'react';
import { stockApi } from '../app/stockApi.ts';
import { Field } from '../ui/Field.tsx';

interface PlaceFieldProps {
  readonly value: string;
  readonly onChange: (place: string) => void;
  readonly label?: string;
}

/** What a place is called; the one without a name is the drawer. */
export const placeName = (place: string): string => place || 'drawer';

/** Where something lies: one of the places in use, or a new one. */
export function PlaceField({ value, onChange, label = 'Place' }: PlaceFieldProps) {
  const { data } = stockApi.useStockValueQuery();
  const list = useId();
  return (
    <Field label={label}>
      {(props) => (
        <>
          <input
            autoComplete="off"
            list={list}
            maxLength={60}
            placeholder="drawer"
            value={value}
            onChange={({ target }) => onChange(target.value)}
            {...props}
          />
          <datalist id={list}>
            {data?.places
              .filter(({ place }) => place !== '')
              .map(({ place }) => (
                <option key={place} value={place} />
              ))}
          </datalist>
        </>
      )}
    </Field>
  );
}
