import { useMemo } from 'react';
import { api } from '../../app/api.ts';
import { systemOf } from '#core/inventory';
import type { SystemFacts } from '#core/inventory';
import type { EvidenceRecord } from '#contract/evidence';
import { useReadDocuments } from './useReadDocuments.ts';
import type { ShownDocument } from './useReadDocuments.ts';

/** What a collected file says of the running system, and which file. */
export interface CollectedSystem {
  readonly facts: SystemFacts;
  readonly name: string;
}

/** The running system by the latest collected file among documents. */
export function systemIn(documents: readonly ShownDocument[]): CollectedSystem | undefined {
  for (const { record, read } of [...documents].reverse())
    if (read?.collected && read.collected.facts.length > 0)
      return { facts: systemOf(read.collected), name: record.name };
  return undefined;
}

const couldBe = ({ kind, name }: EvidenceRecord) => kind === 'file' && /\.json$/i.test(name);

/** The running system of a job’s machine; of all its files only those that could tell are fetched. */
export function useSystem(jobId: string): CollectedSystem | undefined {
  const { data } = api.useEvidenceQuery(jobId);
  const records = useMemo(() => data?.documents.filter(couldBe), [data]);
  const { documents } = useReadDocuments(jobId, records);
  return useMemo(() => systemIn(documents), [documents]);
}
