import { Link, useRouteError } from 'react-router';
import { Notice } from '../ui/Notice.tsx';

/** Shown when a page breaks. Drafts are in the browser's store, so reloading loses nothing. */
export function RouteError() {
  const error = useRouteError();
  return (
    <main className="mx-auto max-w-2xl p-8">
      <Notice
        kind="stop"
        title="This page broke"
        why={error instanceof Error ? error.message : 'Something unexpected happened.'}
        mend="Reload it: what you typed is kept in this browser."
      >
        <a className="link" href={location.href}>
          Reload
        </a>{' '}
        <Link className="link" to="/">
          Bench
        </Link>
      </Notice>
    </main>
  );
}

/** Shown for an address that is no page. */
export function NoSuchPage() {
  return (
    <main className="mx-auto max-w-2xl p-8">
      <h1 className="mb-3 text-answer font-bold">No such page</h1>
      <Notice kind="caution" title="Page not found" why="It may be mistyped.">
        <Link className="link" to="/">
          Go to the bench
        </Link>
      </Notice>
    </main>
  );
}
