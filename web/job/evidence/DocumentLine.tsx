import {
  count,
  documentKindName,
  explainFinding,
  explainInventoryFinding,
  list,
  placeText,
} from '#core/explaining';
import type { MakerRecord } from '#contract/evidence';
import { Button } from '../../ui/Button.tsx';
import { download } from '../../ui/download.ts';
import { Mark } from '../../ui/Mark.tsx';
import { CollectedFacts } from './CollectedFacts.tsx';
import { ImageFacts } from './ImageFacts.tsx';
import type { EvidenceState, ShownDocument } from './useEvidence.ts';

type Worst = 'stop' | 'caution' | 'ok';

/** What was found while a document was read, in words. */
const findingsOf = ({ read }: ShownDocument) => [
  ...(read?.findings ?? []).map((one) => ({
    severity: one.severity,
    words: explainInventoryFinding(one),
    at: placeText(one.place),
  })),
  ...(read?.labelFindings ?? []).map((one) => ({
    severity: one.severity,
    words: explainFinding(one),
    at: '',
  })),
];

/** The gravest finding of a document. */
export function worstOf(document: ShownDocument): Worst {
  const severities = findingsOf(document).map(({ severity }) => severity);
  if (severities.includes('error')) return 'stop';
  return severities.includes('caution') ? 'caution' : 'ok';
}

/** One document: what it is, what was found in it, and the way to have it back. */
export function DocumentLine({
  jobId,
  document,
  makers,
  nameOf,
  contentOf,
}: {
  readonly jobId: string;
  readonly document: ShownDocument;
  readonly makers: readonly MakerRecord[];
  readonly nameOf: (slotId: string) => string;
  readonly contentOf: EvidenceState['contentOf'];
}) {
  const { record, read } = document;
  const findings = findingsOf(document);
  const kind = read?.kind;
  const named = kind === undefined ? 'being read …' : documentKindName(kind);
  const photo = `/api/jobs/${jobId}/evidence/${record.id}/photo`;
  const devices = read?.evidence.devices ?? [];
  const places = record.slotIds.flatMap((slotId) => (slotId === null ? [] : [nameOf(slotId)]));
  const filled = devices.filter(({ state }) => state === 'module').length;
  return (
    <li className="border-b border-line py-1 last:border-0">
      <details>
        <summary className="flex min-h-8 cursor-pointer flex-wrap items-center gap-x-3 text-aside">
          <Mark kind={worstOf(document)} />
          <span className="figure break-all">{record.name}</span>
          <span className="text-muted">
            {named}
            {read?.collected
              ? ` · ${count(read.collected.parts.length, 'part')}, ${count(read.collected.facts.length, 'figure')}`
              : kind !== undefined && kind !== 'eyes' && ` · ${count(filled, 'module')}`}
            {record.kind !== 'file' && places.length > 0 && ` · ${list(places)}`}
          </span>
          <span className="ml-auto text-muted">
            {findings.length > 0 ? count(findings.length, 'finding') : 'no findings'} · {record.by}
          </span>
        </summary>
        {record.hasPhoto && (
          <a href={photo} target="_blank" rel="noreferrer" className="my-1 ml-8 block w-fit">
            <img
              src={photo}
              alt={`What the ${record.name} was read off`}
              loading="lazy"
              className="max-h-40 max-w-full rounded border border-line"
            />
          </a>
        )}
        {read?.collected && <CollectedFacts collected={read.collected} />}
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
