import { snapshotOf } from '#contract/jobProof';
import type { Job, SnapshotKind } from '#contract/records';
import { api } from '../app/api.ts';
import { useSave } from './useSave.ts';

/** Saves configurations of jobs; each kind of a job has a version of its own. */
export function useSaveSnapshot(onDone?: (job: Job) => void) {
  const [save] = api.useSaveSnapshotMutation();
  return useSave(save, onDone, (job, { kind }) => snapshotOf(job, kind as SnapshotKind)?.version);
}
