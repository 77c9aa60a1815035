import { useState } from 'react';
import { SIMULATED_FAULTS } from '#contract/measuring';
import type { SittingInput } from '#contract/measuring';
import type { Job } from '#contract/records';
import { measuringApi } from '../../app/measuringApi.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';

type Fault = (typeof SIMULATED_FAULTS)[number];

const FAULT_WORDS: Readonly<Record<Fault, string>> = {
  none: 'as recorded',
  'one channel': 'truly single-channel',
  'still rising': 'processor too slow to show it',
};

interface SimulatedMachineProps {
  readonly job: Job;
  readonly common: SittingInput;
}

/** In the made-up world: a machine that sends a result through the very door a real one would. */
export function SimulatedMachine({ job, common }: SimulatedMachineProps) {
  const [fault, setFault] = useState<Fault>('none');
  const [simulate] = measuringApi.useSimulateResultMutation();
  const simulating = useSave(simulate);
  return (
    <div className="flex flex-wrap items-end gap-2 rounded border border-dashed border-edge p-2">
      <SelectField
        label="Simulated machine"
        value={fault}
        onChange={({ target }) => setFault(target.value as Fault)}
        options={SIMULATED_FAULTS.map((one) => [one, FAULT_WORDS[one]])}
      />
      <Button onClick={() => void simulating.save({ id: job.id, body: { ...common, fault } })}>
        Simulate a result
      </Button>
      <SaveNotice state={simulating.state} />
    </div>
  );
}
