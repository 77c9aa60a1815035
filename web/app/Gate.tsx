import { Suspense, lazy, useEffect, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { TAGS, api } from './api.ts';
import { selectIsIn, serverSeen } from './connectionSlice.ts';
import { fetched } from './fetched.ts';
import { followWriting } from './shopWriting.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

const SignIn = lazy(() => fetched(() => import('../access/SignIn.tsx')));

/**
 * Lets whoever is signed in through. Where somebody was in and is no more, the page stays behind the
 * door, unseen, with all that was typed; the same person finds it again.
 */
export function Gate({ children }: { readonly children: ReactNode }) {
  const dispatch = useAppDispatch();
  const { data: session, refetch } = api.useSessionQuery();
  const isIn = useAppSelector(selectIsIn);
  const state = session?.state;
  const personId = session?.person?.id;
  /** Whose page it is; the next one’s is another, begun anew. */
  const [page, setPage] = useState<{ whose: string | undefined; turn: number }>({
    whose: undefined,
    turn: 0,
  });
  // A request was refused: ask where we stand.
  useEffect(() => {
    if (!isIn) void refetch();
  }, [isIn, refetch]);
  const wasOut = useRef(false);
  useEffect(() => {
    if (state === undefined) return;
    const isHere = state === 'signed in';
    dispatch(serverSeen({ isIn: isHere }));
    // What was refused while nobody was in is asked again.
    if (isHere && wasOut.current)
      dispatch(api.util.invalidateTags(TAGS.filter((tag) => tag !== 'session')));
    wasOut.current = !isHere;
  }, [state, personId, dispatch]);
  if (state === 'signed in' && personId !== undefined && page.whose !== personId)
    setPage({ whose: personId, turn: page.turn + (page.whose === undefined ? 0 : 1) });
  const writing = followWriting(session?.writing);
  const isShut = session !== undefined && session.state !== 'signed in';
  return (
    <>
      {isShut && (
        <Suspense>
          <SignIn session={session} />
        </Suspense>
      )}
      {(!isShut || page.whose !== undefined) && (
        <div
          key={`${page.turn} ${writing}`}
          hidden={isShut}
          className={isShut ? '' : 'flex grow flex-col'}
        >
          {children}
        </div>
      )}
    </>
  );
}
