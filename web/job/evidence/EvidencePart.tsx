import { useState } from 'react';
import { count } from '#core/explaining';
import type { MakerRecord } from '#contract/evidence';
import { api } from '../../app/api.ts';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { Failed } from '../../ui/States.tsx';
import { Turner } from '../../ui/Folded.tsx';
import { Part } from '../StepLayout.tsx';
import { DocumentLine, worstOf } from './DocumentLine.tsx';
import { EvidenceIntake } from './EvidenceIntake.tsx';
import { SlotTable } from './SlotTable.tsx';
import type { EvidenceState } from './useEvidence.ts';

interface EvidencePartProps {
  readonly evidence: EvidenceState;
  readonly jobId: string;
  readonly isClosed: boolean;
}

/**
 * All that was read, typed and seen, kept as it came: a line a slot with its sources behind it, and
 * the documents folded away unless one of them could not be read.
 */
export function EvidencePart({ evidence, jobId, isClosed }: EvidencePartProps) {
  const { isAny, failure, saveStates } = evidence;
  const { data: makers = [] } = api.useMakersQuery();
  return (
    <Part title="Evidence" hint="what files, labels, screens and eyes say; kept as it came">
      {failure ? (
        <Failed failure={failure} what="the evidence" onRetry={evidence.refetch} />
      ) : (
        <>
          {saveStates.map((state, at) => (
            <SaveNotice key={at} state={state} />
          ))}
          {isAny && (
            <>
              <SlotTable evidence={evidence} makers={makers} isClosed={isClosed} />
              <Strays evidence={evidence} />
              <Documents evidence={evidence} jobId={jobId} makers={makers} isClosed={isClosed} />
            </>
          )}
          {!isAny && (
            <p className="text-muted">
              {isClosed ? 'None was kept.' : 'None yet: drop files above, or type a label.'}
            </p>
          )}
        </>
      )}
    </Part>
  );
}

/** The documents themselves, and the way to add more. */
function Documents({
  evidence,
  jobId,
  makers,
  isClosed,
}: EvidencePartProps & { readonly makers: readonly MakerRecord[] }) {
  const { documents, refused, machine } = evidence;
  const nameOf = (slotId: string) =>
    machine.slots.find(({ id }) => id === slotId)?.printedName ?? slotId;
  const isTroubled = refused.length > 0 || documents.some((one) => worstOf(one) === 'stop');
  const [isOpen, setOpen] = useState<boolean>();
  return (
    <details
      className="group/fold mt-1 border-t border-line"
      open={isOpen ?? isTroubled}
      onToggle={({ currentTarget: { open } }) => {
        if (open !== (isOpen ?? isTroubled)) setOpen(open);
      }}
    >
      <summary className="flex min-h-10 w-fit cursor-pointer items-center gap-x-3">
        <Turner />
        <span className="link">
          {[
            ...(documents.length > 0 ? [count(documents.length, 'source')] : []),
            ...(isClosed ? [] : ['add files or a firmware screen']),
          ].join('; ')}
        </span>
      </summary>
      {!isClosed && <EvidenceIntake evidence={evidence} jobId={jobId} />}
      <ul aria-label="Documents" className="grid border-t border-line">
        {documents.map((one) => (
          <DocumentLine
            key={one.record.id}
            jobId={jobId}
            document={one}
            makers={makers}
            nameOf={nameOf}
            contentOf={evidence.contentOf}
          />
        ))}
      </ul>
    </details>
  );
}

const STRAY_WORDS = {
  phantom: 'listed empty, no such slot on the board',
  soldered: 'soldered to the board',
  unplaced: 'slot not known',
  'set aside': 'set aside: no such slot',
} as const;

/** What sources list beyond the slots. */
function Strays({ evidence: { reconciled } }: { readonly evidence: EvidenceState }) {
  if (reconciled.strays.length === 0) return null;
  return (
    <p className="mt-2 text-aside text-muted">
      Beyond the slots:{' '}
      {reconciled.strays.map(({ assigned, kind }, at) => (
        <span key={at}>
          {at > 0 && '; '}
          <span className="figure">{assigned.claim.locator ?? assigned.evidence.name}</span> (
          {STRAY_WORDS[kind]})
        </span>
      ))}
    </p>
  );
}
