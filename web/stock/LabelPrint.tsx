import { useState } from 'react';
import { LABEL_SHEETS } from '#core/stock';
import { api } from '../app/api.ts';

/** Modules whose labels go into one file. */
const MOST = 200;

/** Labels of the modules that are shown, on what the shop prints them on. */
export function LabelPrint({ ids }: { readonly ids: readonly string[] }) {
  const { data } = api.useShopQuery();
  const [used, setUsed] = useState('0');
  const sheet = LABEL_SHEETS.find(({ id }) => id === data?.terms.labelSheet);
  if (!sheet) return null;
  const perPage = sheet.columns * sheet.rows;
  const shown = ids.slice(0, MOST);
  const start = /^\d+$/.test(used) ? Number(used) % perPage : 0;
  const query = new URLSearchParams({ ids: shown.join(','), used: String(start) });
  return (
    <span className="ml-auto flex flex-wrap items-center gap-3 text-aside">
      {perPage > 1 && (
        <label className="flex items-center gap-2">
          labels used on the first sheet
          <input
            className="input w-16!"
            inputMode="numeric"
            value={used}
            onChange={({ target }) => setUsed(target.value)}
          />
        </label>
      )}
      <a
        className="link inline-flex min-h-10 items-center font-bold"
        href={`/api/stock/labels.pdf?${query.toString()}`}
        target="_blank"
        rel="noreferrer"
      >
        {shown.length === 1 ? 'Print its label' : `Print ${shown.length} labels`}
      </a>
    </span>
  );
}
