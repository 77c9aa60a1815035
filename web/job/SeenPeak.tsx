import type { UseFormReturn } from 'react-hook-form';
import { useWatch } from 'react-hook-form';
import { peakText } from '#core/explaining';
import { Button } from '../ui/Button.tsx';
import { useSystem } from './evidence/useSystem.ts';
import type { NeedForm } from './needForm.ts';

interface SeenPeakProps {
  readonly jobId: string;
  readonly form: UseFormReturn<NeedForm>;
  readonly isClosed: boolean;
}

/** The peak and the drive a collected file tells of, taken over with one press. */
export function SeenPeak({ jobId, form, isClosed }: SeenPeakProps) {
  const system = useSystem(jobId);
  const [peak, paging, drive] = useWatch({
    control: form.control,
    name: ['peak', 'paging', 'drive'],
  });
  if (!system?.facts.peak) return null;
  const { peak: seen, drive: kind } = system.facts;
  const typed = String(Number(seen.value.gib.toFixed(1)));
  const isTaken =
    peak === typed && paging === seen.value.paging && (kind === undefined || drive === kind.value);
  const take = () => {
    const dirty = { shouldDirty: true };
    form.setValue('peak', typed, dirty);
    form.setValue('paging', seen.value.paging, dirty);
    if (kind) form.setValue('drive', kind.value, dirty);
    form.clearErrors('peak');
  };
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-copper-wash p-3">
      <p className="min-w-60 grow basis-0">
        <b>Seen on the machine:</b> {peakText(seen)}
        {kind && `; ${kind.value === 'spinning' ? 'a spinning' : 'a solid-state'} drive`}.{' '}
        <span className="text-aside text-muted break-all">
          {system.name}, {seen.from}
        </span>
      </p>
      {isTaken ? (
        <span className="text-aside text-muted">in use below</span>
      ) : (
        !isClosed && <Button onClick={take}>Use it</Button>
      )}
    </div>
  );
}
