import { job as jobSchema } from '#contract/records';
import type { Job, JobTerms } from '#contract/records';
import { workingSetText } from '#core/explaining';
import { workingSet } from '#core/need';
import type { NeedInput } from '#core/need';
import { api } from '../app/api.ts';
import { useAppDispatch } from '../app/store.ts';
import { useSave } from '../ui/useSave.ts';

type Terms = Partial<JobTerms> & { machineId?: string };

const show = (key: string, value: unknown): string =>
  value === null || value === undefined
    ? 'not stated'
    : typeof value === 'boolean'
      ? value
        ? 'yes'
        : 'no'
      : typeof value === 'object'
        ? showWhole(key, value)
        : `${value as string}`;

/** Terms that are more than a figure or a word. */
function showWhole(key: string, value: object): string {
  const work = key === 'needInput' && workingSet(value as NeedInput);
  return work ? workingSetText(work) : Object.values(value).map(String).join(', ');
}

/**
 * Changes the terms of a job; a stale save shows both sides of what was changed.
 *
 * @param onTheirs - puts the other side's values into the form
 * @param base - the version the form's content started from
 */
export function useTerms(
  job: Job,
  onDone?: () => void,
  onTheirs?: (theirs: Job) => void,
  base = job.version,
) {
  const dispatch = useAppDispatch();
  const [trigger] = api.useChangeJobMutation();
  const { save, state, clear } = useSave(trigger, onDone);
  const send = (terms: Terms, version = base) => save({ id: job.id, body: { ...terms, version } });
  return {
    save: (terms: Terms) => void send(terms),
    notice: {
      state,
      sides: (yours: unknown, theirs: unknown) =>
        Object.entries(yours as Terms & { version?: number })
          .filter(([key]) => key !== 'version' && key !== 'machineId')
          .map(
            ([key, mine]) =>
              [
                key === 'needInput' ? 'need' : key,
                show(key, mine),
                show(key, (theirs as Record<string, unknown>)[key]),
              ] as const,
          ),
      onKeepMine: (theirs: unknown) => {
        const { problem } = state.type === 'failed' ? state.failure : {};
        const { version: _stale, ...terms } = (problem?.yours ?? {}) as Terms & {
          version?: number;
        };
        void send(terms, (theirs as Job).version);
      },
      onTakeTheirs: (theirs: unknown) => {
        clear();
        const parsed = jobSchema.safeParse(theirs);
        if (!parsed.success) return;
        void dispatch(api.util.upsertQueryData('job', job.id, parsed.data));
        onDone?.();
        onTheirs?.(parsed.data);
      },
    },
  };
}
