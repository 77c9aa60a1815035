import { useEffect, useRef, useState } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import type { ListedMachine } from '#contract/records';
import type { NewJobForm } from './newJobForm.ts';
import type { IntakeFiles } from './useIntakeFiles.ts';

/**
 * Which machine a job being opened is for: one of the library, or the one its files tell of.
 *
 * @param read - the files that came along, once they have been read
 */
export function useMachineChoice(
  form: UseFormReturn<NewJobForm>,
  read: Extract<IntakeFiles, { type: 'read' }> | undefined,
) {
  const described = read?.taken.type === 'machine' ? read.taken : undefined;
  const [isFromFiles, setFromFiles] = useState(false);
  /** A machine on the same board whose limits the new one takes over. */
  const [likeness, setLikeness] = useState<ListedMachine>();
  /** What the files called the machine last. */
  const suggested = useRef('');
  const choose = {
    known: ({ id }: Pick<ListedMachine, 'id'>) => {
      setFromFiles(false);
      form.setValue('machineId', id, { shouldDirty: true });
      form.clearErrors('machineId');
    },
    fromFiles: () => {
      setFromFiles(true);
      setLikeness(undefined);
      form.setValue('machineId', '', { shouldDirty: true });
      const { name: proposed = '' } = described?.picture.machine ?? {};
      // A name that was typed stays, also when more files are dropped.
      if (['', suggested.current].includes(form.getValues('machineName')))
        form.setValue('machineName', proposed, { shouldDirty: true });
      suggested.current = proposed;
      form.clearErrors('machineId');
    },
    /** Only after a yes; the same again takes it back. */
    likeness: (known: ListedMachine) =>
      setLikeness((last) => (last?.id === known.id ? undefined : known)),
  };
  const reads = read?.reads;
  /** The machine that files chose: files may take it back, and other files choose another. */
  const byFiles = useRef('');
  // Each time files have been read, the machine they tell of is chosen; a person may choose another.
  useEffect(() => {
    const isByHand = !['', byFiles.current].includes(form.getValues('machineId'));
    if (!described) {
      setFromFiles(false);
      if (!isByHand) form.setValue('machineId', '');
      return;
    }
    // A machine that was chosen by hand stays: the shop may know it under another name.
    if (isByHand) return;
    const [likeliest] = described.recognised;
    // The same board under another name is another machine until somebody says otherwise.
    const isSure = likeliest?.differs.length === 0 && likeliest.by !== 'board';
    byFiles.current = isSure ? likeliest.known.id : '';
    if (isSure) choose.known(likeliest.known);
    else choose.fromFiles();
    // By what was read alone: not each time the library's list is fetched again.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [reads]);
  return { described, isFromFiles, likeness, choose };
}
