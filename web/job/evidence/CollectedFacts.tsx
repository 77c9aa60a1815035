import { factText } from '#core/explaining';
import type { Collected } from '#core/inventory';

/** What a collected file says of the running system, each figure with where it was read, and what was not. */
export function CollectedFacts({ collected }: { readonly collected: Collected }) {
  const { facts, notRead } = collected;
  return (
    <dl className="mb-2 grid grid-cols-[minmax(0,auto)_minmax(0,1fr)] gap-x-4 pl-8 text-aside">
      {facts.map((fact) => {
        const { name, value } = factText(fact);
        return (
          <div key={fact.name} className="contents">
            <dt>{name}</dt>
            <dd>
              <span className="figure">{value}</span>{' '}
              <span className="break-all text-muted">{fact.from}</span>
            </dd>
          </div>
        );
      })}
      {notRead.map(({ what, why }, at) => (
        <div key={at} className="contents">
          <dt className="break-all">{what}</dt>
          <dd className="break-words text-muted">not read: {why}</dd>
        </div>
      ))}
    </dl>
  );
}
