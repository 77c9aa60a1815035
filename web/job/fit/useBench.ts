import { nanoid } from 'nanoid';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { BenchInput, BenchLog } from '#contract/bench';
import { jobBench } from '#contract/jobBench';
import type { JobBench } from '#contract/jobBench';
import type { Job } from '#contract/records';
import { effectOf } from '#core/fitting';
import { api } from '../../app/api.ts';
import type { ApiFailure } from '../../app/api.ts';
import { benchNow } from '../../app/benchClock.ts';
import { selectReachable } from '../../app/connectionSlice.ts';
import { useAppSelector } from '../../app/store.ts';
import { useMe } from '../../ui/useMe.ts';

const EMPTY: BenchLog = { entries: [], pulledTo: 'customer' };

/** A note with who made it; it waits until they are here again, and is signed by the server then. */
type Pending = BenchInput & { readonly by: string };

const keyOf = (jobId: string) => `tembrix.bench.${jobId}`;

/** Notes made here that the server has not answered yet; kept in the browser, in order. */
function usePending(jobId: string) {
  const [pending, setPending] = useState<readonly Pending[]>(() => {
    try {
      return JSON.parse(localStorage.getItem(keyOf(jobId)) ?? '[]') as Pending[];
    } catch {
      return [];
    }
  });
  useEffect(() => {
    if (pending.length === 0) localStorage.removeItem(keyOf(jobId));
    else localStorage.setItem(keyOf(jobId), JSON.stringify(pending));
  }, [jobId, pending]);
  return [pending, setPending] as const;
}

/** The log with what is still on its way, so that a tick shows at once. */
function withPending(job: Job, log: BenchLog, pending: readonly Pending[]): BenchLog {
  let all = log;
  for (const { id, by, note } of pending) {
    if (all.entries.some((entry) => entry.id === id)) continue;
    const step =
      note.type === 'tick'
        ? jobBench(job, all).sheet.steps.find((one) => one.id === note.stepId)
        : undefined;
    const full = note.type === 'tick' ? { ...note, effect: step && effectOf(step) } : note;
    const entry = { id, by, at: new Date(benchNow()).toISOString(), note: full };
    all = { ...all, entries: [...all.entries, entry] };
  }
  return all;
}

/** A job's bench work, and how to add to it. */
export interface Bench extends JobBench {
  readonly log: BenchLog;
  readonly add: (note: BenchInput['note']) => void;
  /** Takes the last tick of this round back. */
  readonly undo: (() => void) | undefined;
  readonly failure: Extract<ApiFailure, { type: 'problem' }> | undefined;
  readonly isWaiting: boolean;
}

/** Whether the bench work is known; why it is not, and how it is asked for again. */
export interface BenchAnswer {
  readonly isKnown: boolean;
  readonly error: unknown;
  readonly refetch: () => void;
}

/**
 * The bench work of a job. Notes show at once and are sent one after another; while the server is
 * away they wait in this browser, also over a reload.
 */
export function useBench(job: Job): Bench & { readonly answer: BenchAnswer } {
  const { data, error, refetch } = api.useBenchQuery(job.id, { refetchOnMountOrArgChange: true });
  const [send] = api.useAddBenchNoteMutation();
  const { name } = useMe();
  const [pending, setPending] = usePending(job.id);
  const [failure, setFailure] = useState<Bench['failure']>();
  const online = useAppSelector(selectReachable);
  const isSending = useRef(false);
  // What somebody else left waiting on this device is theirs to send.
  const first = pending.find(({ by }) => by === name);

  useEffect(() => {
    if (!first || isSending.current || !online) return;
    isSending.current = true;
    const drop = () => setPending((all) => all.filter(({ id }) => id !== first.id));
    const { id, note } = first;
    void send({ id: job.id, body: { id, note } })
      .unwrap()
      .then(drop, (error: ApiFailure) => {
        if (error.type !== 'problem') return;
        setFailure(error);
        drop();
      })
      .finally(() => {
        isSending.current = false;
        // Look again even where nothing changed here: a note that could not be sent waits.
        setPending((all) => [...all]);
      });
  }, [first, online, send, job.id, setPending]);

  const log = useMemo(() => withPending(job, data ?? EMPTY, pending), [job, data, pending]);
  const bench = useMemo(() => jobBench(job, log), [job, log]);
  const add = useCallback(
    (note: BenchInput['note']) => {
      setFailure(undefined);
      setPending((all) => [...all, { id: nanoid(12), by: name, note }]);
    },
    [name, setPending],
  );
  const last = [...bench.state.round.ticks.values()].at(-1);
  return {
    ...bench,
    ...{ log, add, failure },
    answer: { isKnown: data !== undefined, error, refetch: () => void refetch() },
    undo: last && (() => add({ type: 'undo', of: last.entryId })),
    isWaiting: pending.length > 0 && !online,
  };
}
