import { count } from '#core/explaining';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { TooLarge } from '../intake/MachineFromFiles.tsx';
import { CollectingHelp } from './CollectingHelp.tsx';
import { FileFromCodes } from './FileFromCodes.tsx';
import { ScreenForm } from './ScreenForm.tsx';
import type { EvidenceState } from './useEvidence.ts';

interface EvidenceIntakeProps {
  readonly evidence: EvidenceState;
  readonly jobId: string;
}

/** Files by dropping or choosing; a firmware screen by typing or off a photo. */
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
      <FileFromCodes onFile={(file) => void evidence.addFiles([file])} />
      <details>
        <summary className="link min-h-6 cursor-pointer text-aside">
          Type or photograph a firmware screen
        </summary>
        <div className="mt-2">
          <ScreenForm evidence={evidence} />
        </div>
      </details>
    </div>
  );
}
