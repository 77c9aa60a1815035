import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { EVIDENCE_LIMIT } from '#contract/evidence';
import type { ListedMachine } from '#contract/records';
import { firmwareKey, takeIn } from '#core/reconciling';
import type { ReadDocument, TakenIn } from '#core/reconciling';
import { api } from '../../app/api.ts';
import { takeCarriedFiles } from '../../ui/carriedFiles.ts';
import type { NoAnswer } from '../../workers/asked.ts';
import { readWithPartsAside } from '../../workers/readDocuments.ts';

/** Files that came with a machine, and what they say of which one it is. */
export type IntakeFiles =
  | { readonly type: 'none' }
  | { readonly type: 'reading'; readonly count: number }
  | { readonly type: 'failed'; readonly failure: NoAnswer }
  | {
      readonly type: 'read';
      readonly files: readonly File[];
      readonly reads: readonly ReadDocument[];
      readonly taken: TakenIn<ListedMachine>;
    };

const readFile = async (file: File, at: number): Promise<readonly ReadDocument[]> =>
  readWithPartsAside({
    ...{ id: `new-${at}`, kind: 'file', name: file.name },
    bytes: new Uint8Array(await file.arrayBuffer()),
  });

interface Known {
  readonly machines: readonly ListedMachine[];
  /** Every machine of the library is in the list, or will not come. */
  readonly isReady: boolean;
}

/**
 * Reads files as they are dropped, in a worker; more may follow. Those dropped on the bench are taken up.
 *
 * @param onMachine - told once for each drop which machine it is, when that is clear
 */
export function useIntakeFiles({ machines, isReady }: Known) {
  const [files, setFiles] = useState<readonly File[]>([]);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const [reads, setReads] = useState<readonly ReadDocument[]>();
  const [failure, setFailure] = useState<NoAnswer>();
  const turn = useRef(0);
  const read = useCallback((all: readonly File[]) => {
    const mine = ++turn.current;
    setFiles(all);
    setReads(undefined);
    setFailure(undefined);
    // Files dropped meanwhile are read together with these.
    Promise.all(all.map(readFile)).then(
      (done) => mine === turn.current && setReads(done.flat()),
      (error: unknown) => mine === turn.current && setFailure(error as NoAnswer),
    );
  }, []);
  const add = useCallback(
    (more: readonly File[]) => {
      setRefused(more.filter(({ size }) => size > EVIDENCE_LIMIT).map(({ name }) => name));
      const fitting = more.filter(({ size }) => size <= EVIDENCE_LIMIT);
      const isNew = (one: File) =>
        !files.some(({ name, size }) => name === one.name && size === one.size);
      if (fitting.some(isNew)) read([...files, ...fitting.filter(isNew)]);
    },
    [files, read],
  );
  useEffect(() => {
    const carried = takeCarriedFiles();
    if (carried.length > 0) add(carried);
    // Once, when the page opens.
    // oxlint-disable-next-line react/exhaustive-deps
  }, []);
  const board = reads?.find((one) => one.board)?.board;
  const key = board && firmwareKey(board);
  const byKey = api.useMachinesKnownAsQuery(key ?? '', { skip: key === undefined });
  const isAsked = key === undefined || byKey.data !== undefined || byKey.error !== undefined;
  const state = useMemo((): IntakeFiles => {
    if (files.length === 0) return { type: 'none' };
    if (failure) return { type: 'failed', failure };
    if (!reads || !isReady || !isAsked) return { type: 'reading', count: files.length };
    const known = new Map([...(byKey.data ?? []), ...machines].map((one) => [one.id, one]));
    return { type: 'read', files, reads, taken: takeIn(reads, [...known.values()]) };
  }, [files, reads, failure, isReady, isAsked, machines, byKey.data]);
  const clear = () => read([]);
  const retry = () => read(files);
  return { state, refused, add, clear, retry };
}
