import { useState } from 'react';
import {
  count,
  explainFinding,
  explainInventoryFinding,
  inventoryKindName,
  placeText,
} from '#core/explaining';
import { readScreen } from '#core/inventory';
import type { MakerRecord } from '#contract/evidence';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { download } from '../../ui/download.ts';
import { Field, TextField } from '../../ui/Field.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { Failed } from '../../ui/States.tsx';
import { Part } from '../StepLayout.tsx';
import { TooLarge } from '../intake/MachineFromFiles.tsx';
import { ImageFacts } from './ImageFacts.tsx';
import { SlotTable } from './SlotTable.tsx';
import type { EvidenceState, ShownDocument } from './useEvidence.ts';

interface EvidencePartProps {
  readonly evidence: EvidenceState;
  readonly isClosed: boolean;
}

/** All that was read, typed and seen, kept as it came; each slot with its sources side by side. */
export function EvidencePart({ evidence, isClosed }: EvidencePartProps) {
  const { documents, failure, saveStates } = evidence;
  const makers = api.useMakersQuery();
  return (
    <Part title="Evidence" hint="what files, labels, screens and eyes say; kept as it came">
      {failure ? (
        <Failed failure={failure} what="the evidence" onRetry={evidence.refetch} />
      ) : (
        <>
          {!isClosed && documents.length > 0 && <EvidenceIntake evidence={evidence} />}
          {saveStates.map((state, at) => (
            <SaveNotice key={at} state={state} />
          ))}
          {documents.length > 0 && (
            <>
              <SlotTable evidence={evidence} makers={makers.data ?? []} isClosed={isClosed} />
              <Strays evidence={evidence} />
              <ul aria-label="Documents" className="mt-3 grid border-t border-line">
                {documents.map((one) => (
                  <DocumentLine
                    key={one.record.id}
                    document={one}
                    makers={makers.data ?? []}
                    contentOf={evidence.contentOf}
                  />
                ))}
              </ul>
            </>
          )}
          {documents.length === 0 && (
            <p className="text-muted">
              {isClosed ? 'None was kept.' : 'None yet: drop files above, or type a label.'}
            </p>
          )}
        </>
      )}
    </Part>
  );
}

/** Files by dropping or choosing; a firmware screen by typing. */
export function EvidenceIntake({ evidence }: { readonly evidence: EvidenceState }) {
  return (
    <div className="mb-3 grid gap-3">
      <FileDrop
        label="Files from the machine"
        hint="Drop them here, any number: SPD images, an SMBIOS dump or listing, the system’s memory list as JSON. Which is which is found out."
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

const KINDS = {
  sticker: 'sticker, typed',
  screen: 'firmware screen, typed',
  eyes: 'seen',
} as const;

function DocumentLine({
  document: { record, read },
  makers,
  contentOf,
}: {
  readonly document: ShownDocument;
  readonly makers: readonly MakerRecord[];
  readonly contentOf: EvidenceState['contentOf'];
}) {
  const findings = [
    ...(read?.findings ?? []).map((one) => ({
      ...one,
      words: explainInventoryFinding(one),
      at: placeText(one.place),
    })),
    ...(read?.labelFindings ?? []).map((one) => ({ ...one, words: explainFinding(one), at: '' })),
  ];
  const worst = findings.some(({ severity }) => severity === 'error')
    ? 'stop'
    : findings.some(({ severity }) => severity === 'caution')
      ? 'caution'
      : 'ok';
  const kind = read?.kind;
  const named =
    kind === undefined
      ? 'being read …'
      : kind === 'sticker' || kind === 'screen' || kind === 'eyes'
        ? KINDS[kind]
        : inventoryKindName(kind);
  const devices = read?.evidence.devices ?? [];
  const filled = devices.filter(({ state }) => state === 'module').length;
  return (
    <li className="border-b border-line py-1 last:border-0">
      <details>
        <summary className="flex min-h-8 cursor-pointer flex-wrap items-center gap-x-3 text-aside">
          <Mark kind={worst} />
          <span className="figure break-all">{record.name}</span>
          <span className="text-muted">
            {named}
            {kind !== undefined && kind !== 'eyes' && ` · ${count(filled, 'module')}`}
          </span>
          <span className="ml-auto text-muted">
            {findings.length > 0 ? count(findings.length, 'finding') : 'nothing to say'} ·{' '}
            {record.by}
          </span>
        </summary>
        {read?.evidence.images?.map((image) => (
          <ImageFacts key={image.offset} image={image} makers={makers} />
        ))}
        {record.kind === 'file' && (
          <div className="ml-8 text-aside">
            <Button
              look="quiet"
              onClick={() =>
                void contentOf(record.id).then((bytes) => {
                  if (bytes) download(record.name, 'application/octet-stream', bytes);
                })
              }
            >
              Save the file as it came
            </Button>
          </div>
        )}
        {findings.length > 0 && (
          <ul className="my-2 ml-8 grid gap-2">
            {findings.map(({ words, severity }, at) => (
              <li key={at} className="text-aside">
                <p className="font-bold">{words.title}</p>
                <p>
                  {words.why} {words.mend && <span className="text-muted">{words.mend}</span>}
                </p>
                <span className="sr-only">{severity}</span>
              </li>
            ))}
          </ul>
        )}
      </details>
    </li>
  );
}
