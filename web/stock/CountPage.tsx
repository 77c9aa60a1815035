import { useEffect, useState } from 'react';
import type { FormEvent } from 'react';
import type { CountAnswer, CountRecord } from '#contract/stockKeeping';
import { count, momentText } from '#core/explaining';
import { meaningOfText } from '../app/scanned.ts';
import { stockApi } from '../app/stockApi.ts';
import { useScanner } from '../app/useScanner.ts';
import { Button } from '../ui/Button.tsx';
import { CodeReader } from '../ui/CodeReader.tsx';
import { TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed } from '../ui/States.tsx';
import { dropDraft, keepDraft, storedDraft } from '../ui/useDraft.ts';
import { useSave } from '../ui/useSave.ts';
import { Page } from '../ui/Page.tsx';
import { Differences } from './Differences.tsx';
import { placeName } from './PlaceField.tsx';

interface Draft {
  /** null = everything. */
  readonly place: string | null;
  readonly scanned: readonly string[];
}
const DRAFT = 'count';
const EMPTY: Draft = { place: null, scanned: [] };

/** The module of a label's code, or the code itself where it is of something else. */
const pieceOf = (text: string): string =>
  /^\/drawer\/([\w-]+)$/.exec(pathOf(text))?.[1] ?? text.trim().slice(0, 300);
const pathOf = (text: string): string => {
  const meaning = meaningOfText(text);
  return meaning.type === 'page' ? meaning.path : '';
};

/** A count by scanning labels: what is missing, what lies elsewhere, and what to do about it. */
export function CountPage() {
  const [draft, setDraft] = useState<Draft>(() => storedDraft<Draft>(DRAFT) ?? EMPTY);
  const [typed, setTyped] = useState('');
  const [isCamera, setCamera] = useState(false);
  const [last, setLast] = useState<string>();
  const { data: value } = stockApi.useStockValueQuery();
  const [compare, compared] = stockApi.useCompareCountMutation();
  const [done, setDone] = useState<CountRecord>();
  const { place, scanned } = draft;
  const set = (next: Draft) => {
    setDraft(next);
    // A count takes an hour; a reload must not lose it.
    keepDraft(DRAFT, next);
  };
  useEffect(() => {
    void compare({ place, scanned: [...scanned] });
  }, [compare, place, scanned]);
  const add = (text: string) => {
    const code = pieceOf(text);
    if (code === '') return;
    setDone(undefined);
    setLast(scanned.includes(code) ? `${code} was scanned before` : `${code} counted`);
    if (!scanned.includes(code)) set({ ...draft, scanned: [...scanned, code] });
  };
  useScanner((meaning) =>
    add(
      meaning.type === 'page'
        ? `http://here${meaning.path}`
        : meaning.type === 'words'
          ? meaning.words
          : '',
    ),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add(typed);
    setTyped('');
  };
  const finish = (record: CountRecord) => {
    dropDraft(DRAFT);
    setDraft(EMPTY);
    setDone(record);
  };
  return (
    <Page title="Count" isNarrow>
      <div className="grid gap-4">
        {done && (
          <Notice
            kind="ok"
            title={`Count taken over: ${done.found} of ${done.expected} found`}
            why={`${count(done.missing, 'module')} missing, ${done.moved} moved, ${done.back} came back.`}
          />
        )}
        <section className="sheet grid gap-3" aria-label="Scan">
          <div className="flex flex-wrap items-end gap-3">
            <label className="grid gap-1">
              <b>Counted is</b>
              <select
                className="input"
                value={place ?? '*'}
                onChange={({ target }) =>
                  set({ ...draft, place: target.value === '*' ? null : target.value })
                }
              >
                <option value="*">everything</option>
                {value?.places.map((one) => (
                  <option key={one.place} value={one.place}>
                    {placeName(one.place)} ({one.pieces})
                  </option>
                ))}
              </select>
            </label>
            <form className="flex grow items-end gap-3" onSubmit={submit}>
              <div className="grow">
                <TextField
                  label="Code of a label"
                  placeholder="scan, or type it"
                  spellCheck={false}
                  value={typed}
                  onChange={({ target }) => setTyped(target.value)}
                />
              </div>
              <Button type="submit" disabled={typed.trim() === ''}>
                Count it
              </Button>
            </form>
            <Button aria-expanded={isCamera} onClick={() => setCamera(!isCamera)}>
              {isCamera ? 'Camera off' : 'By camera'}
            </Button>
          </div>
          {isCamera && <CodeReader goesOn onText={add} />}
          <p role="status">
            <b className="text-answer">{count(scanned.length, 'label')}</b> scanned
            {last !== undefined && <span className="text-muted">; last: {last}</span>}
          </p>
          <p className="text-aside text-muted">
            A scanner may be fired from anywhere on this page. What was scanned stays here over a
            reload.
          </p>
        </section>
        {compared.error && (
          <Failed
            failure={compared.error}
            what="the comparison"
            onRetry={() => void compare({ place, scanned: [...scanned] })}
          />
        )}
        {compared.data && scanned.length > 0 && (
          <Taking draft={draft} differences={compared.data} onDone={finish} />
        )}
        {scanned.length > 0 && (
          <Button look="quiet" onClick={() => set({ ...EMPTY, place })}>
            Start the count again
          </Button>
        )}
        <Counts />
      </div>
    </Page>
  );
}

interface TakingProps {
  readonly draft: Draft;
  readonly differences: CountAnswer;
  readonly onDone: (record: CountRecord) => void;
}

function Taking({ draft, differences, onDone }: TakingProps) {
  const [writeOff, setWriteOff] = useState<ReadonlySet<string>>(new Set());
  const [take] = stockApi.useTakeCountMutation();
  const taking = useSave(take, onDone);
  const missing = new Set(differences.missing.map(({ id }) => id));
  const lost = [...writeOff].filter((id) => missing.has(id));
  return (
    <section className="sheet grid gap-3" aria-label="Differences">
      <Differences
        differences={differences}
        isPlace={draft.place !== null}
        writeOff={writeOff}
        onWriteOff={(id, is) => {
          const next = new Set(writeOff);
          if (is) next.add(id);
          else next.delete(id);
          setWriteOff(next);
        }}
      />
      <div>
        <Button
          look="main"
          onClick={() =>
            void taking.save({ place: draft.place, scanned: [...draft.scanned], writeOff: lost })
          }
        >
          Take the count over
        </Button>
      </div>
      <SaveNotice state={taking.state} />
    </section>
  );
}

function Counts() {
  const { data } = stockApi.useCountsQuery();
  if (!data || data.length === 0) return null;
  return (
    <section className="sheet" aria-label="Earlier counts">
      <h2 className="mb-1 font-bold">Earlier counts</h2>
      <ul className="grid gap-1 text-aside">
        {data.slice(0, 12).map((one) => (
          <li key={one.id}>
            {momentText(one.at)}, {one.by}:{' '}
            {one.place === null ? 'everything' : placeName(one.place)},{' '}
            <b>
              {one.found} of {one.expected}
            </b>{' '}
            found
          </li>
        ))}
      </ul>
    </section>
  );
}
