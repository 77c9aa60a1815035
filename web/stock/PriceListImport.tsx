import { useMemo, useState } from 'react';
import type { SupplierRecord } from '#contract/suppliers';
import { LIST_FIELD_WORDS, count, explainJump, explainListFault } from '#core/explaining';
import { LIST_FIELDS, guessColumns, lackingColumns, readPriceList } from '#core/stock';
import type { ListColumns, PriceList } from '#core/stock';
import { api } from '../app/api.ts';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField } from '../ui/Field.tsx';
import { FilePick, TABLES } from '../ui/FilePick.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { readTable } from '../ui/table.ts';
import { useCurrency } from '../ui/useCurrency.ts';
import { useSave } from '../ui/useSave.ts';

interface File {
  readonly name: string;
  readonly rows: readonly (readonly string[])[];
}

/** Faults listed before the rest is only counted. */
const LISTED = 12;

/** A supplier's price list: its columns said once, what it changes shown, then taken over or left. */
export function PriceListImport({ record }: { readonly record: SupplierRecord }) {
  const [file, setFile] = useState<File>();
  const [columns, setColumns] = useState<ListColumns>({});
  const [withNew, setWithNew] = useState(false);
  const [done, setDone] = useState<string>();
  const { data: modules } = api.useModulesQuery('');
  const currency = useCurrency();
  const [take] = stockApi.useTakePriceListMutation();
  const taking = useSave(take, ({ changed, added, repriced }) => {
    setFile(undefined);
    setDone(`${changed} changed, ${added} added, ${repriced} with another price`);
  });
  const heads = (file?.rows[0] ?? []).map((head) => head.trim());
  const lacking = lackingColumns(columns, heads);
  const list = useMemo(() => {
    if (
      !file ||
      lackingColumns(
        columns,
        (file.rows[0] ?? []).map((head) => head.trim()),
      ).length > 0
    )
      return undefined;
    const known = (modules ?? []).filter(
      ({ supplier, article }) => supplier === record.name && article !== '',
    );
    return readPriceList(file.rows, columns, known, currency);
  }, [file, columns, modules, record.name, currency]);
  const pick = async (chosen: globalThis.File) => {
    const rows = await readTable(await chosen.arrayBuffer());
    const found = (rows[0] ?? []).map((head) => head.trim());
    // As last time where the headings are still there; by their words otherwise.
    const remembered = record.columns ?? {};
    setColumns(lackingColumns(remembered, found).length === 0 ? remembered : guessColumns(found));
    setDone(undefined);
    setFile({ name: chosen.name, rows });
  };
  const send = () => {
    if (!list) return;
    const bare = <T extends { readonly row: number }>({ row: _row, ...one }: T) => one;
    void taking.save({
      id: record.id,
      body: {
        columns,
        changes: list.changes.map(bare),
        additions: withNew
          ? list.additions.map((one) => ({ ...bare(one), module: one.module as never }))
          : [],
      },
    });
  };
  return (
    <div className="grid gap-3 border-t border-line pt-3">
      <div className="flex flex-wrap items-center gap-4">
        <FilePick label="Choose a CSV file" accept={TABLES} onFile={(one) => void pick(one)} />
        {done !== undefined && <span role="status">Taken over: {done}.</span>}
      </div>
      {file && (
        <>
          <fieldset className="grid gap-3 sm:grid-cols-3">
            <legend className="mb-1 text-aside text-muted">
              {file.name}: {count(file.rows.length - 1, 'row')}. Which column holds what; it is
              remembered.
            </legend>
            {LIST_FIELDS.map((field) => (
              <SelectField
                key={field}
                label={LIST_FIELD_WORDS[field]}
                value={columns[field] ?? ''}
                error={lacking.includes(field) ? 'Choose its column.' : undefined}
                options={[
                  ['', field === 'article' || field === 'cost' ? 'choose …' : 'not in the list'],
                  ...heads.filter((head) => head !== '').map((head) => [head, head] as const),
                ]}
                onChange={({ target }) =>
                  setColumns({ ...columns, [field]: target.value || undefined })
                }
              />
            ))}
          </fieldset>
          {list && <Preview list={list} currency={currency} />}
          {list && list.additions.length > 0 && (
            <label className="flex min-h-10 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-teal"
                checked={withNew}
                onChange={({ target }) => setWithNew(target.checked)}
              />
              Add {count(list.additions.length, 'module')} the catalogue does not have
            </label>
          )}
          <div className="flex gap-3">
            <Button
              look="main"
              disabled={!list || list.changes.length + (withNew ? list.additions.length : 0) === 0}
              onClick={send}
            >
              Take it over
            </Button>
            <Button look="quiet" onClick={() => setFile(undefined)}>
              Leave it
            </Button>
          </div>
        </>
      )}
      <SaveNotice state={taking.state} />
    </div>
  );
}

function Preview({ list, currency }: { readonly list: PriceList; readonly currency: string }) {
  const { changes, additions, otherGoods, faults, jumps } = list;
  const kind = faults.length + jumps.length > 0 ? 'caution' : 'note';
  return (
    <Notice
      kind={kind}
      title={`${count(changes.length, 'price')} read${faults.length > 0 ? `, ${count(faults.length, 'row')} left out` : ''}`}
      why={`${additions.length} new to the catalogue, ${otherGoods} of other goods. Nothing is taken over yet.`}
    >
      <ul className="grid gap-1 text-aside">
        {faults.slice(0, LISTED).map((fault) => {
          const { title, why, mend = '' } = explainListFault(fault);
          return (
            <li key={fault.row} className="break-words">
              <span className="font-bold text-stop">✕ {title}.</span> {why} {mend}
            </li>
          );
        })}
        {faults.length > LISTED && <li>… and {faults.length - LISTED} more rows left out</li>}
        {jumps.slice(0, LISTED).map((jump) => {
          const { title, why, mend = '' } = explainJump(jump, currency);
          return (
            <li key={jump.row} className="break-words">
              <b>? {title}.</b> {why} {mend}
            </li>
          );
        })}
        {jumps.length > LISTED && <li>… and {jumps.length - LISTED} more such moves</li>}
      </ul>
    </Notice>
  );
}
