import { Link } from 'react-router';
import { snapshotOf } from '#contract/jobProof';
import { count, explainEmptyFront, explainExclusion } from '#core/explaining';
import type { EmptyReason } from '#core/planning';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { DEADLINE_MS } from './usePlanSearch.ts';
import type { SearchState } from './usePlanSearch.ts';
import type { PlanContext } from './planContext.ts';

type Search = SearchState & { readonly stop: () => void; readonly again: () => void };

/** How far the search is, how sure its answer is, and what it was told. */
export function SearchLine({
  search,
  context,
}: {
  readonly search: Search;
  readonly context: PlanContext;
}) {
  const { result, isRunning, done, elapsedMs, failure } = search;
  const { query, job } = context;
  if (failure !== undefined)
    return (
      <Notice
        kind="stop"
        title="The search broke off"
        why={failure}
        mend="Search again; lay it out by hand meanwhile."
      >
        <Button onClick={search.again}>Search again</Button>
      </Notice>
    );
  const isUnknown = !snapshotOf(job, 'as-found');
  const facts = [
    `${job.school} school`,
    query.need === undefined ? 'no need stated' : `need ${query.need.toFixed(1)} GB with margin`,
    query.budget === undefined ? 'no budget stated' : 'within the budget',
  ];
  return (
    <>
      {isUnknown && (
        <div className="mb-3">
          <Notice
            kind="caution"
            title="Nothing is on record as found"
            why="These plans take every slot for empty."
            mend="Enter what is fitted under Inspect."
          />
        </div>
      )}
      <div
        className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-1 text-aside"
        aria-live="polite"
      >
        {isRunning ? (
          <>
            <progress aria-label="Search" className="h-2 w-28 accent-teal" max={1} value={done} />
            <span>
              {count(result?.plans.length ?? 0, 'plan')} so far, {Math.round(done * 100)} % looked
              through
            </span>
            <Button look="quiet" onClick={search.stop}>
              stop
            </Button>
          </>
        ) : (
          <>
            <Mark kind={result?.complete ? 'ok' : 'caution'} />
            <span>
              {result?.complete
                ? `${count(result.plans.length, 'plan')}: every one that nothing beats, of ${count(result.considered, 'offer')} that fit, in ${elapsedMs < 1000 ? `${elapsedMs} ms` : `${(elapsedMs / 1000).toFixed(1)} s`}`
                : `Best found so far: stopped after ${(elapsedMs / 1000).toFixed(1)} of ${DEADLINE_MS / 1000} s, so a better one may be missing`}
            </span>
            {!result?.complete && (
              <Button look="quiet" onClick={search.again}>
                search again
              </Button>
            )}
          </>
        )}
        <span className="text-muted">{facts.join(' · ')}</span>
      </div>
      {!isRunning && result && result.plans.length > 0 && result.considered === 0 && (
        <NothingFits context={context} />
      )}
    </>
  );
}

/** What there is can be left or moved, and nothing can be bought for it: that is said before it is chosen. */
function NothingFits({ context: { query } }: { readonly context: PlanContext }) {
  // Where all is soldered, no module is missing; the plans themselves say so.
  if (query.machine.slots.length === 0) return null;
  const all = query.offers.length + query.drawer.length;
  const { title, why, mend } =
    all === 0
      ? NOTHING_ON_OFFER
      : {
          title: 'Nothing on offer fits this machine',
          why: `${all === 1 ? 'The one module' : `None of the ${count(all, 'module')}`} in the catalogue and the drawer ${all === 1 ? 'cannot' : 'can'} be fitted, so these plans buy nothing.`,
          mend: 'Add modules that fit under Modules. “Why not …?” tells of each what is in its way.',
        };
  return (
    <div className="mb-3">
      <Notice kind="caution" title={title} why={why} mend={mend}>
        <Link className="link" to="/modules">
          Modules
        </Link>
      </Notice>
    </div>
  );
}

const NOTHING_ON_OFFER = {
  title: 'The catalogue and the drawer are empty',
  why: 'A plan buys from the catalogue or takes from the drawer.',
  mend: 'Add modules with their prices under Modules, or import a supplier’s list as CSV.',
};

/** Why there is nothing to show, and what the nearest module is excluded by. */
export function EmptyFront({
  reason,
  search,
  context,
}: {
  readonly reason: EmptyReason;
  readonly search: Search;
  readonly context: PlanContext;
}) {
  const { query, terms, nameOffer } = context;
  const { title, why, mend } =
    query.offers.length + query.drawer.length === 0
      ? NOTHING_ON_OFFER
      : explainEmptyFront(reason, query, terms.currency);
  const nearest = [...(search.result?.exclusions ?? [])]
    .filter((one) => one.type === 'does-not-fit')
    .sort((a, b) => a.blockers.length - b.blockers.length)[0];
  return (
    <div className="mb-4">
      <Notice alert kind="stop" title={title} why={why} mend={mend}>
        {reason.relax === 'nothing helps' && nearest && (
          <p>
            Nearest: <b>{nameOffer(nearest.id)}</b>.{' '}
            {explainExclusion(nearest, query.machine)
              .map((one) => `${one.title}. ${one.why}`)
              .join(' ')}
          </p>
        )}
      </Notice>
    </div>
  );
}
