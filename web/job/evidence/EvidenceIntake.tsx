import { useState } from 'react';
import { count, explainInventoryFinding } from '#core/explaining';
import { readScreen } from '#core/inventory';
import { Button } from '../../ui/Button.tsx';
import { Field, TextField } from '../../ui/Field.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { TooLarge } from '../intake/MachineFromFiles.tsx';
import { CollectingHelp } from './CollectingHelp.tsx';
import type { EvidenceState } from './useEvidence.ts';

interface EvidenceIntakeProps {
  readonly evidence: EvidenceState;
  readonly jobId: string;
}

/** Files by dropping or choosing; a firmware screen by typing. */
export function EvidenceIntake({ evidence, jobId }: EvidenceIntakeProps) {
  return (
    <div className="mb-3 grid gap-3">
      <FileDrop
        label="Files from the machine"
        hint="Drop them here, any number: a collected file, SPD images, an SMBIOS dump or listing, the system’s memory list as JSON. Which is which is found out."
        onFiles={(files) => void evidence.addFiles(files)}
      >
        {evidence.isReading && (
          <p role="status" className="text-aside text-muted">
            {count(evidence.documents.filter(({ read }) => read).length, 'file')} of{' '}
            {evidence.documents.length} read
          </p>
        )}
      </FileDrop>
      {evidence.refused.length > 0 && <TooLarge names={evidence.refused} />}
      <CollectingHelp jobId={jobId} />
      <details>
        <summary className="link min-h-6 cursor-pointer text-aside">
          Type a firmware screen, or sign as someone else
        </summary>
        <div className="mt-2 grid gap-3 sm:grid-cols-[1fr_14rem]">
          <ScreenForm evidence={evidence} />
          <TextField
            label="You sign as"
            hint="Kept with every decision."
            value={evidence.technician}
            maxLength={60}
            onChange={({ target }) => evidence.setTechnician(target.value)}
          />
        </div>
      </details>
    </div>
  );
}

function ScreenForm({ evidence }: { readonly evidence: EvidenceState }) {
  const [text, setText] = useState('');
  const { devices, findings } = readScreen(text);
  const [fault] = findings;
  return (
    <div className="grid gap-2">
      <Field
        label="Firmware screen, a line each"
        hint="Slot, size, rate: A1 8 GB 1200. Or: A2 empty. Clock or data rate, either is understood."
        error={
          fault &&
          `${explainInventoryFinding(fault).title}. ${explainInventoryFinding(fault).mend ?? ''}`
        }
      >
        {(props) => (
          <textarea
            rows={3}
            {...props}
            className="input figure"
            value={text}
            onChange={({ target }) => setText(target.value)}
          />
        )}
      </Field>
      <div>
        <Button
          disabled={devices.length === 0}
          onClick={() => {
            evidence.addTyped('screen', text, [], 'firmware screen');
            setText('');
          }}
        >
          Add {count(devices.length, 'line')}
        </Button>
      </div>
    </div>
  );
}
