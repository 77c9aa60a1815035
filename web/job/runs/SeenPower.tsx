import { useWatch } from 'react-hook-form';
import type { UseFormReturn } from 'react-hook-form';
import { Button } from '../../ui/Button.tsx';
import { useSystem } from '../evidence/useSystem.ts';
import type { Side, TypedRuns } from './runsForm.ts';

interface SeenPowerProps {
  readonly jobId: string;
  readonly kind: Side;
  readonly form: UseFormReturn<TypedRuns>;
}

/** The power source a collected file tells of, taken over with one press; it was collected before the change. */
export function SeenPower({ jobId, kind, form }: SeenPowerProps) {
  const seen = useSystem(jobId)?.facts.power;
  const power = useWatch({ control: form.control, name: 'power' });
  if (!seen || kind !== 'as-found' || power === seen.value) return null;
  return (
    <p className="flex flex-wrap items-center gap-x-2 text-aside">
      Collected on the machine: {seen.value}
      <span className="text-muted break-all">({seen.from})</span>
      <Button
        look="quiet"
        onClick={() => form.setValue('power', seen.value, { shouldDirty: true })}
      >
        use it
      </Button>
    </p>
  );
}
