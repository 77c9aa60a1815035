import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { coverMap as coverSchema } from '#contract/bench';
import { machineRecord } from '#contract/records';
import type { MachineRecord } from '#contract/records';
import { count, explainCoverFault } from '#core/explaining';
import { COVER_LIMITS, findCoverFaults, openingActs } from '#core/fitting';
import type { CoverMap, CoverPart } from '#core/fitting';
import { api } from '../app/api.ts';
import { useShortcuts } from '../app/keys.ts';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { FilePick } from '../ui/FilePick.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { useSteady } from '../ui/useSteady.ts';
import { CoverPicture, partText } from '../visuals/CoverPicture.tsx';
import { PartFields } from './PartFields.tsx';
import { smallPhoto } from '../ui/smallPhoto.ts';
import { useCoverDraft } from './useCoverDraft.ts';

/** How a machine's cover opens, drawn once for everybody who opens one after. */
export function CoverPage() {
  const { id = '' } = useParams();
  const { data, error, refetch } = api.useMachineQuery(id, { refetchOnMountOrArgChange: true });
  return (
    <main className="mx-auto flex w-full max-w-[1400px] grow flex-col px-5 pt-4 max-sm:px-2">
      {data ? (
        <CoverEditor key={data.id} record={data} />
      ) : error ? (
        <Failed failure={error} what="the machine" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the machine" />
      )}
    </main>
  );
}

const KINDS = [
  ['fastener', 'Screw'],
  ['clip', 'Clip'],
  ['cable', 'Lead'],
] as const;
type Kind = CoverPart['kind'];

/** A new part like the last of its kind: covers are held by few sorts of screws. */
function partLike(kind: Kind, parts: readonly CoverPart[], x: number, y: number): CoverPart {
  const numbers = parts.map(({ id }) => Number(id.replace(/\D/g, '')) || 0);
  const spot = { id: `p${Math.max(0, ...numbers) + 1}`, x: Math.round(x), y: Math.round(y) };
  if (kind === 'clip') return { kind, ...spot };
  if (kind === 'cable') return { kind, ...spot, what: 'lead' };
  const last = parts.findLast((part) => part.kind === 'fastener');
  return last
    ? { ...last, ...spot, under: 'nothing' }
    : {
        kind,
        ...spot,
        drive: 'cross',
        size: 'PH1',
        length: 'unknown',
        captive: false,
        under: 'nothing',
      };
}

function CoverEditor({ record }: { readonly record: MachineRecord }) {
  const [search] = useSearchParams();
  const jobId = search.get('job');
  const draft = useCoverDraft(record);
  const { map, set } = draft;
  const [kind, setKind] = useState<Kind>('fastener');
  const [chosen, setChosen] = useState<string>();
  const [saveCover] = api.useSaveCoverMutation();
  const saving = useSave(saveCover, draft.forget);
  const faults = findCoverFaults(map);
  const checked = coverSchema.safeParse(map);
  const shape = checked.success ? [] : checked.error.issues.map(({ message }) => message);
  const part = map.parts.find(({ id }) => id === chosen);
  const photo = record.hasPhoto
    ? `/api/machines/${record.id}/photo?v=${record.version}`
    : undefined;
  const add = (x: number, y: number) => {
    const made = partLike(kind, map.parts, x, y);
    set((now) => ({ ...now, parts: [...now.parts, made] }));
    setChosen(made.id);
  };
  const base = useSteady(record, draft.isChanged).version;
  const send = (version = base) =>
    void saving.save({ id: record.id, body: { coverMap: map, version } });
  useShortcuts([
    ...(draft.canUndo ? [{ keys: 'Ctrl Z', does: 'Undo on the map', run: draft.undo }] : []),
    ...(draft.isChanged ? [{ keys: 'S', does: 'Save the map', run: () => send() }] : []),
  ]);
  return (
    <>
      <h1 className="mb-3 text-answer font-bold break-words">Cover of {record.machine.name}</h1>
      <div className="grid grow items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_20.5rem]">
        <div className="sheet min-w-0">
          <div
            className="mb-3 flex flex-wrap items-center gap-2"
            role="group"
            aria-label="Press the cover to mark"
          >
            <span className="text-aside text-muted">Press the cover to mark a</span>
            {KINDS.map(([one, name]) => (
              <Button
                key={one}
                aria-pressed={kind === one}
                className={kind === one ? 'bg-teal-wash' : 'font-normal!'}
                onClick={() => setKind(one)}
              >
                {kind === one ? '● ' : '○ '}
                {name}
              </Button>
            ))}
            <Button
              look="quiet"
              className="text-aside"
              onClick={() => add(map.width / 2, map.height / 2)}
            >
              put one in the middle
            </Button>
          </div>
          <div className="grid justify-items-center">
            <CoverPicture
              map={map}
              photo={photo}
              here={chosen}
              onPart={({ id }) => setChosen(id)}
              onSpot={add}
            />
          </div>
          {map.parts.length === 0 && (
            <p className="mt-3 text-muted">
              Nothing is marked. A cover without screws is fine too: save it, and the sheet says how
              it comes off.
            </p>
          )}
          <ol className="mt-3 grid gap-x-6 text-aside sm:grid-cols-2">
            {map.parts.map((one, at) => (
              <li key={one.id}>
                <button
                  type="button"
                  aria-pressed={one.id === chosen}
                  className={`min-h-9 text-left ${one.id === chosen ? 'font-bold' : ''}`}
                  onClick={() => setChosen(one.id)}
                >
                  <span className="figure">{at + 1}</span> {partText(one)}
                </button>
              </li>
            ))}
          </ol>
        </div>
        <aside className="grid gap-3.5" aria-label="Details">
          {part && (
            <section className="sheet">
              <PartFields
                key={part.id}
                draft={draft}
                part={part}
                onRemoved={() => setChosen(undefined)}
              />
            </section>
          )}
          <section className="sheet grid gap-3">
            <h2 className="font-bold">Cover</h2>
            <CoverFields map={map} onChange={(change) => set((now) => ({ ...now, ...change }))} />
            <Photo record={record} />
          </section>
          {record.coverMap && (
            <section className="sheet text-aside">
              <h2 className="mb-1 text-body font-bold">Laying-out sheet</h2>
              <p className="text-muted">
                True to scale: lay it under the machine, and each screw on its own place.
              </p>
              <p className="mt-1 flex gap-4">
                <a
                  className="link flex min-h-10 items-center font-bold"
                  href={`/api/machines/${record.id}/cover.pdf`}
                >
                  Print (PDF)
                </a>
                <a
                  className="link flex min-h-10 items-center font-bold"
                  href={`/api/machines/${record.id}/cover.svg`}
                  download={`cover-${record.id}.svg`}
                >
                  Save as SVG
                </a>
              </p>
            </section>
          )}
        </aside>
      </div>
      <AnswerBar
        label="Cover map"
        actions={
          <>
            {draft.canUndo && (
              <Button keys="Ctrl Z" onClick={draft.undo}>
                Undo
              </Button>
            )}
            {draft.isChanged ? (
              <Button
                look="main"
                keys="S"
                disabled={faults.length > 0 || shape.length > 0}
                onClick={() => send()}
              >
                Save the map
              </Button>
            ) : (
              <Link
                className="link flex min-h-10 items-center font-bold"
                to={jobId === null ? `/machines/${record.id}` : `/jobs/${jobId}/fit`}
              >
                {jobId === null ? 'Back to the machine' : 'Back to the sheet'}
              </Link>
            )}
          </>
        }
      >
        <Answer label="To open it">
          {count(openingActs(map).length, 'move')}, {count(map.parts.length, 'part')}
        </Answer>
      </AnswerBar>
      <div className="grid gap-2 py-2">
        {faults.map((fault) => (
          <Notice key={fault.path} kind="stop" {...explainCoverFault(fault)} />
        ))}
        {faults.length === 0 &&
          shape.map((message) => <Notice key={message} kind="stop" title={message} />)}
        <SaveNotice
          state={saving.state}
          sides={(yours, theirs) => [['Parts', partsOf(yours), partsOf(theirs)]]}
          onKeepMine={(theirs) => {
            const parsed = machineRecord.safeParse(theirs);
            send(parsed.success ? parsed.data.version : undefined);
          }}
          onTakeTheirs={() => {
            draft.discard();
            saving.clear();
          }}
        />
      </div>
    </>
  );
}

const partsOf = (side: unknown) => {
  const map = (side as { coverMap?: CoverMap | null } | undefined)?.coverMap;
  return map ? count(map.parts.length, 'part') : 'no map';
};

interface CoverFieldsProps {
  readonly map: CoverMap;
  readonly onChange: (change: Partial<CoverMap>) => void;
}

function CoverFields({ map, onChange }: CoverFieldsProps) {
  const side = (name: 'width' | 'height', label: string) => (
    <TextField
      label={`${label}, mm`}
      type="number"
      min={COVER_LIMITS.smallest}
      max={COVER_LIMITS.largest}
      value={map[name]}
      onChange={({ target }) => onChange({ [name]: Number(target.value) })}
    />
  );
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        {side('width', 'Width')}
        {side('height', 'Depth')}
      </div>
      <TextField
        label="Worth knowing"
        value={map.note}
        maxLength={500}
        onChange={({ target }) => onChange({ note: target.value })}
      />
    </>
  );
}

function Photo({ record }: { readonly record: MachineRecord }) {
  const [fault, setFault] = useState<{ title: string; why: string; mend: string }>();
  const [save] = api.useSavePhotoMutation();
  const [remove] = api.useRemovePhotoMutation();
  const saving = useSave(save);
  const removing = useSave(remove);
  const take = async (file: File) => {
    const small = await smallPhoto(file);
    if ('title' in small) return setFault(small);
    setFault(undefined);
    await saving.save({ id: record.id, body: small });
  };
  return (
    <div className="grid gap-1 text-aside">
      <p className="flex flex-wrap items-center gap-x-4">
        <FilePick
          label={record.hasPhoto ? 'Another photo' : 'Draw on a photo'}
          accept="image/*"
          onFile={(file) => void take(file)}
        />
        {record.hasPhoto && (
          <Button look="quiet" onClick={() => void removing.save(record.id)}>
            remove it
          </Button>
        )}
      </p>
      <p className="text-muted">
        Straight from above, cut to the cover; it is stretched to its width and depth.
      </p>
      {fault && <Notice alert kind="stop" {...fault} />}
      <SaveNotice state={saving.state} />
      <SaveNotice state={removing.state} />
    </div>
  );
}
