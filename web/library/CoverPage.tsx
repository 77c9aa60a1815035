import { Link, useParams, useSearchParams } from 'react-router';
import { machineRecord } from '#contract/records';
import type { MachineRecord } from '#contract/records';
import { count, explainCoverFault } from '#core/explaining';
import { openingActs } from '#core/fitting';
import type { CoverMap } from '#core/fitting';
import { api } from '../app/api.ts';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { CoverPicture, partText } from '../visuals/CoverPicture.tsx';
import { CoverFields, CoverPhoto } from './CoverFields.tsx';
import { PartFields } from './PartFields.tsx';
import { KINDS, useCoverEditor } from './useCoverEditor.ts';
import type { CoverEditorState } from './useCoverEditor.ts';

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

function CoverEditor({ record }: { readonly record: MachineRecord }) {
  const editor = useCoverEditor(record);
  const { draft, map, set, part, setChosen } = editor;
  return (
    <>
      <h1 className="mb-3 text-answer font-bold break-words">Cover of {record.machine.name}</h1>
      <div className="grid grow items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_20.5rem]">
        <div className="sheet min-w-0">
          <Drawing {...editor} />
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
            <CoverPhoto record={record} />
          </section>
          {record.coverMap && <LayingOutSheet id={record.id} />}
        </aside>
      </div>
      <CoverBar {...editor} />
      <Outcome {...editor} />
    </>
  );
}

/** The cover as it lies, what a press on it marks, and the parts in a list. */
function Drawing({ record, map, kind, setKind, chosen, setChosen, add }: CoverEditorState) {
  const photo = record.hasPhoto
    ? `/api/machines/${record.id}/photo?v=${record.version}`
    : undefined;
  return (
    <>
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
          Nothing is marked. A cover without screws is fine too: save it, and the sheet says how it
          comes off.
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
    </>
  );
}

function LayingOutSheet({ id }: { readonly id: string }) {
  return (
    <section className="sheet text-aside">
      <h2 className="mb-1 text-body font-bold">Laying-out sheet</h2>
      <p className="text-muted">
        True to scale: lay it under the machine, and each screw on its own place.
      </p>
      <p className="mt-1 flex gap-4">
        <a
          className="link flex min-h-10 items-center font-bold"
          href={`/api/machines/${id}/cover.pdf`}
        >
          Print (PDF)
        </a>
        <a
          className="link flex min-h-10 items-center font-bold"
          href={`/api/machines/${id}/cover.svg`}
          download={`cover-${id}.svg`}
        >
          Save as SVG
        </a>
      </p>
    </section>
  );
}

function CoverBar({ record, draft, map, faults, shape, send }: CoverEditorState) {
  const [search] = useSearchParams();
  const jobId = search.get('job');
  return (
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
  );
}

/** What is wrong with the map, and what came of saving it. */
function Outcome({ draft, faults, shape, saving, send }: CoverEditorState) {
  return (
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
  );
}

const partsOf = (side: unknown) => {
  const map = (side as { coverMap?: CoverMap | null } | undefined)?.coverMap;
  return map ? count(map.parts.length, 'part') : 'no map';
};
