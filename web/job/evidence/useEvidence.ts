import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { jobMachine } from '#contract/jobProof';
import type { EvidenceInput, EvidenceRecord } from '#contract/evidence';
import type { Job } from '#contract/records';
import type { SlotId } from '#core/machine';
import { reconcile } from '#core/reconciling';
import type { ClaimField, DocumentKind, ReadDocument } from '#core/reconciling';
import { api } from '../../app/api.ts';
import type { ApiFailure } from '../../app/api.ts';
import { selectOnline } from '../../app/connectionSlice.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { base64FromText, bytesFromBase64 } from '../../ui/base64.ts';
import { useSave } from '../../ui/useSave.ts';
import { signature, useTechnician } from '../../ui/useTechnician.ts';
import { documentsFromFiles } from './documentsFromFiles.ts';
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

/** All evidence of a job: read in a worker, reconciled here, added to and decided upon. */
export function useEvidence(job: Job) {
  const { data, error, refetch } = api.useEvidenceQuery(job.id);
  const [technician, setTechnician] = useTechnician();
  const by = signature(technician);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const contents = useReadDocuments(job.id, data?.documents);
  const { documents } = contents;
  const machine = jobMachine(job);
  const reconciled = useMemo(
    () =>
      reconcile({
        machine,
        evidence: documents.flatMap(({ read }) => (read ? [read.evidence] : [])),
        remembered: job.machine.locators,
        decisions: data?.decisions ?? [],
      }),
    [machine, documents, job.machine.locators, data?.decisions],
  );
  const [add] = api.useAddEvidenceMutation();
  const [place] = api.usePlaceEvidenceMutation();
  const [decide] = api.useDecideEvidenceMutation();
  const [remember] = api.useRememberLocatorMutation();
  const adding = useSave(add);
  const placing = useSave(place);
  const deciding = useSave(decide);
  const remembering = useSave(remember);
  return {
    ...{ machine, documents, reconciled, technician, setTechnician },
    isEmpty: data?.documents.length === 0,
    failure: data ? contents.failure : error,
    refetch: data ? contents.retry : () => void refetch(),
    isReading: documents.some(({ read }) => read === undefined),
    saveStates: [adding.state, placing.state, deciding.state, remembering.state],
    /** Names of files that were too large to be taken. */
    refused,
    /** Stores files as they are; they are read from there. */
    addFiles: async (files: readonly File[]) => {
      const { portions, refused: large } = await documentsFromFiles(files, by);
      setRefused(large);
      await Promise.all(
        portions.map((documents_) => adding.save({ id: job.id, body: { documents: documents_ } })),
      );
    },
    /** Stores what was typed or seen. */
    addTyped: (
      kind: Exclude<DocumentKind, 'file'>,
      text: string,
      slotIds: readonly SlotId[],
      name: string,
    ) => {
      const document: EvidenceInput = {
        kind,
        name,
        base64: base64FromText(text),
        slotIds: [...slotIds],
        by,
      };
      void adding.save({ id: job.id, body: { documents: [document] } });
    },
    /** The bytes of one piece as they came; nothing where the server is away. */
    contentOf: async (evidenceId: string) => (await contents.fetchContent(evidenceId)).bytes,
    /** Says which slot one device of a document is from. */
    placeDevice: (evidenceId: string, index: number, slotId: SlotId) => {
      const record = data?.documents.find(({ id }) => id === evidenceId);
      const devices =
        documents.find((one) => one.record === record)?.read?.evidence.devices.length ?? 1;
      const slotIds = Array.from({ length: Math.max(devices, index + 1) }, (_, at) =>
        at === index ? slotId : (record?.slotIds[at] ?? null),
      );
      void placing.save({ id: job.id, evidenceId, body: { slotIds, by } });
    },
    /** Says for this machine where a firmware's name for a place belongs. */
    rememberLocator: (key: string, slotId: SlotId | 'none') =>
      void remembering.save({ id: job.machine.id, body: { key, slotId } }),
    /** Believes one source, on one field or on several. */
    believe: (slotId: SlotId, fields: readonly ClaimField[], evidenceId: string) =>
      void deciding.save({
        id: job.id,
        body: { decisions: fields.map((field) => ({ slotId, field, evidenceId, by })) },
      }),
  };
}

export type EvidenceState = ReturnType<typeof useEvidence>;

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
function useReadDocuments(jobId: string, records: readonly EvidenceRecord[] | undefined) {
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
      const one = await readDocumentAside({ id, kind, name, bytes });
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
