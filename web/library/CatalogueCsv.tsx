import { useState } from 'react';
import type { ModuleRecord } from '#contract/records';
import { count, explainCatalogueFault, explainContradiction } from '#core/explaining';
import { catalogueFromRows, catalogueToRows } from '#core/quoting';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { FilePick, TABLES } from '../ui/FilePick.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { readTable, saveTable } from '../ui/table.ts';
import { useSave } from '../ui/useSave.ts';

type Preview = ReturnType<typeof catalogueFromRows> & { readonly name: string };

/** Faults listed before the rest is only counted. */
const LISTED = 12;

/** The catalogue as a table, out and in. What comes in is shown first, and goes in whole or not at all. */
export function CatalogueCsv({
  modules,
  currency,
}: {
  readonly modules: readonly ModuleRecord[];
  readonly currency: string;
}) {
  const [preview, setPreview] = useState<Preview>();
  const [bring] = api.useImportModulesMutation();
  const importing = useSave(bring, () => setPreview(undefined));
  const save = () => saveTable('modules.csv', catalogueToRows(modules, currency));
  const read = async (file: File) => {
    const data = await readTable(await file.arrayBuffer());
    setPreview({ name: file.name, ...catalogueFromRows(data, currency) });
  };
  const send = () => {
    const { entries = [] } = preview ?? {};
    const known = new Map(modules.map((one) => [one.id, one]));
    const rows = entries.map(({ id, cost, ...entry }) => {
      const before = id === undefined ? undefined : known.get(id);
      return {
        ...entry,
        // What a table does not say stays as it is.
        cost: cost === undefined ? (before?.cost ?? null) : cost,
        ...(id === undefined ? {} : { id, verifiedOn: before?.verifiedOn ?? [] }),
      };
    });
    void importing.save({ modules: rows });
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 text-aside">
        {modules.length > 0 && (
          <Button look="quiet" onClick={() => void save()}>
            Save as CSV
          </Button>
        )}
        <FilePick label="Import CSV" accept={TABLES} onFile={(file) => void read(file)} />
      </div>
      {preview && (
        <div className="sheet my-3 basis-full">
          <Notice
            kind={preview.faults.length > 0 ? 'caution' : 'note'}
            title={`${preview.name}: ${count(preview.entries.length, 'row')} read${preview.faults.length > 0 ? `, ${count(preview.faults.length, 'fault')}` : ''}`}
            why={`${preview.entries.filter(({ id }) => id === undefined).length} new, ${preview.entries.filter(({ id }) => id !== undefined).length} changed. Nothing is in the catalogue yet.`}
          >
            <ul className="mb-2 grid gap-1 text-aside">
              {preview.faults.slice(0, LISTED).map((fault, at) => {
                const { title, why, mend = '' } = explainCatalogueFault(fault);
                return (
                  <li key={at} className="break-words">
                    <span className="font-bold text-stop">✕ {title}.</span> {why} {mend}
                  </li>
                );
              })}
              {preview.faults.length > LISTED && (
                <li>… and {preview.faults.length - LISTED} more of the kind</li>
              )}
              {preview.contradictions.slice(0, LISTED).map((one) => {
                const { title, mend = '' } = explainContradiction(one);
                return (
                  <li key={one.part} className="break-words">
                    <b>? {title}.</b> {mend}
                  </li>
                );
              })}
            </ul>
            <div className="flex flex-wrap gap-3">
              <Button disabled={preview.entries.length === 0} onClick={send}>
                {preview.faults.length > 0
                  ? `Take the ${preview.entries.length} good rows, leave the others out`
                  : `Take ${count(preview.entries.length, 'row')}`}
              </Button>
              <Button look="quiet" onClick={() => setPreview(undefined)}>
                Leave it
              </Button>
            </div>
          </Notice>
        </div>
      )}
      <SaveNotice state={importing.state} />
    </>
  );
}
