import { useState } from 'react';
import type { Job } from '#contract/records';
import type { MadeTicket } from '#contract/measuring';
import { POWER_MODES } from '#core/proving';
import type { PowerMode } from '#core/proving';
import { api } from '../../app/api.ts';
import { measuringApi } from '../../app/measuringApi.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';
import { BringResult } from './BringResult.tsx';
import { PageLink } from './PageLink.tsx';
import { SimulatedMachine } from './SimulatedMachine.tsx';

interface MeasuringPageProps {
  readonly job: Job;
  readonly kind: 'as-found' | 'as-fitted';
}

/** Ways to a result of the measuring page: by its link, its code or its file. */
export function MeasuringPage({ job, kind }: MeasuringPageProps) {
  const [power, setPower] = useState<PowerMode>(
    () => job.measurements.find(({ power: known }) => known !== 'unknown')?.power ?? 'unknown',
  );
  const [made, setMade] = useState<MadeTicket>();
  const [make] = measuringApi.useMakeTicketMutation();
  const making = useSave(make, setMade);
  const { data: health } = api.useHealthQuery();
  const common = { kind, power };
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Button
          look="main"
          onClick={() => void making.save({ id: job.id, body: { ...common, brings: 'result' } })}
        >
          {made ? 'Another link' : 'Measure with the page'}
        </Button>
        <div className="w-56">
          <SelectField
            label="Power source"
            value={power}
            onChange={({ target }) => setPower(target.value as PowerMode)}
            options={POWER_MODES.map((one) => [one, one === 'unknown' ? 'not noted' : one])}
          />
        </div>
        <a className="link inline-flex min-h-10 items-center" href="/api/measuring-page.html">
          page for a USB stick
        </a>
        {health?.isDemo && <SimulatedMachine job={job} common={common} />}
      </div>
      <SaveNotice state={making.state} />
      {made && (
        <PageLink key={made.id} jobId={job.id} made={made} onDone={() => setMade(undefined)} />
      )}
      <BringResult jobId={job.id} common={common} />
    </div>
  );
}
