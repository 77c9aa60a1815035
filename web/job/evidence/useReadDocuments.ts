import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { EvidenceRecord } from '#contract/evidence';
import type { ReadDocument } from '#core/reconciling';
import { api } from '../../app/api.ts';
import type { ApiFailure } from '../../app/api.ts';
import { selectOnline } from '../../app/connectionSlice.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { bytesFromBase64 } from '../../ui/base64.ts';
import type { NoAnswer } from '../../workers/asked.ts';
import { readDocumentAside } from '../../workers/readDocuments.ts';

/** A stored document with what its reader found; absent while it is read. */
export interface ShownDocument {
  readonly record: EvidenceRecord;
  readonly read: ReadDocument | undefined;
}

const sameSlots = (read: ReadDocument, record: EvidenceRecord): ReadDocument => ({
  ...read,
  evidence: { ...read.evidence, slotIds: record.slotIds.map((slotId) => slotId ?? undefined) },
});

/** Asks for the bytes of one document, which never change. */
function useContents(jobId: string) {
  const dispatch = useAppDispatch();
  return useCallback(
    async (evidenceId: string): Promise<{ bytes?: Uint8Array; failure?: ApiFailure }> => {
      const { data, error } = await dispatch(
        api.endpoints.evidenceContent.initiate({ id: jobId, evidenceId }, { subscribe: false }),
      );
      return data ? { bytes: bytesFromBase64(data.base64) } : { failure: error as ApiFailure };
    },
    [dispatch, jobId],
  );
}

/** Fetches and reads each document once, in a worker; its content never changes. */
export function useReadDocuments(jobId: string, records: readonly EvidenceRecord[] | undefined) {
  const fetchContent = useContents(jobId);
  const online = useAppSelector(selectOnline);
  const [read, setRead] = useState<ReadonlyMap<string, ReadDocument>>(new Map());
  const [failure, setFailure] = useState<ApiFailure>();
  const [tries, setTries] = useState(0);
  const asked = useRef(new Set<string>());
  const arrived = useRef<[string, ReadDocument][]>([]);
  useEffect(() => {
    // A hundred answers come in one frame; the page is drawn once for all of them.
    const show = () => {
      const news = arrived.current.splice(0);
      setRead((before) => new Map([...before, ...news]));
    };
    const readOne = async ({ id, kind, name }: EvidenceRecord) => {
      const { bytes, failure: missed } = await fetchContent(id);
      if (bytes === undefined) {
        asked.current.delete(id);
        setFailure(missed);
        return;
      }
      const one = await readDocumentAside({ id, kind, name, bytes }).catch((error: unknown) => {
        asked.current.delete(id);
        setFailure(error as NoAnswer);
      });
      if (!one) return;
      if (arrived.current.push([id, one]) === 1) requestAnimationFrame(show);
    };
    setFailure(undefined);
    for (const record of online ? (records ?? []) : []) {
      if (asked.current.has(record.id)) continue;
      asked.current.add(record.id);
      void readOne(record);
    }
  }, [fetchContent, records, online, tries]);
  const documents = useMemo(
    () =>
      (records ?? []).map((record): ShownDocument => {
        const own = read.get(record.id);
        return { record, read: own && sameSlots(own, record) };
      }),
    [records, read],
  );
  return { documents, failure, fetchContent, retry: () => setTries((before) => before + 1) };
}
