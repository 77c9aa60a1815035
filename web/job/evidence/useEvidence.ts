import { useMemo, useState } from 'react';
import { jobMachine } from '#contract/jobProof';
import type { EvidenceInput } from '#contract/evidence';
import type { Job } from '#contract/records';
import type { SlotId } from '#core/machine';
import { reconcile } from '#core/reconciling';
import type { ClaimField, DocumentKind } from '#core/reconciling';
import { api } from '../../app/api.ts';
import { base64FromText } from '../../ui/base64.ts';
import { useSave } from '../../ui/useSave.ts';
import { documentsFromFiles } from './documentsFromFiles.ts';
import { useReadDocuments } from './useReadDocuments.ts';

export type { ShownDocument } from './useReadDocuments.ts';

/** All evidence of a job: read in a worker, reconciled here, added to and decided upon. */
export function useEvidence(job: Job) {
  const { data, error, refetch } = api.useEvidenceQuery(job.id);
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
  // What is on its way counts: the page changes with the press, not under the next one.
  const isComing = adding.state.type === 'saving' || adding.state.type === 'waiting';
  return {
    ...{ machine, documents, reconciled },
    /** Nothing is kept, as far as the bench answered. */
    isEmpty: data?.documents.length === 0 && !isComing,
    /** Something is kept, or on its way to be. */
    isAny: documents.length > 0 || isComing,
    failure: data ? contents.failure : error,
    refetch: data ? contents.retry : () => void refetch(),
    isReading: documents.some(({ read }) => read === undefined),
    saveStates: [adding.state, placing.state, deciding.state, remembering.state],
    /** Names of files that were too large to be taken. */
    refused,
    /** Stores files as they are; they are read from there. */
    addFiles: async (files: readonly File[]) => {
      const { portions, refused: large } = await documentsFromFiles(files);
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
      /** What the label was read off, as base64. */
      photo?: string,
    ) => {
      const document: EvidenceInput = {
        kind,
        name,
        base64: base64FromText(text),
        slotIds: [...slotIds],
        ...(photo === undefined ? {} : { photo }),
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
      void placing.save({ id: job.id, evidenceId, body: { slotIds } });
    },
    /** Says for this machine where a firmware's name for a place belongs. */
    rememberLocator: (key: string, slotId: SlotId | 'none') =>
      void remembering.save({ id: job.machine.id, body: { key, slotId } }),
    /** Believes one source, on one field or on several. */
    believe: (slotId: SlotId, fields: readonly ClaimField[], evidenceId: string) =>
      void deciding.save({
        id: job.id,
        body: { decisions: fields.map((field) => ({ slotId, field, evidenceId })) },
      }),
  };
}

export type EvidenceState = ReturnType<typeof useEvidence>;
