import { explainFinding, gb } from '#core/explaining';
import { moduleSummary, profileSummary } from '#core/memory';
import type { LabelReading } from '#core/memory';
import { Mark } from '../ui/Mark.tsx';

const KINDS = { error: 'stop', caution: 'caution', note: 'note' } as const;

/** What a label was taken for, and what is wrong or assumed, each with its mend. */
export function LabelReport({ reading }: { readonly reading: LabelReading }) {
  const { module, count, findings } = reading;
  return (
    <div className="grid gap-1 text-aside">
      {module && (
        <p className="flex items-start gap-2">
          <Mark kind="ok" />
          <span>
            {count > 1 && `${count} × `}
            <b>{gb(module.capacity)}</b> <span className="figure">{moduleSummary(module)}</span>{' '}
            {module.buffering !== 'unbuffered' && `${module.buffering} `}
            {module.formFactor}
            {module.profile && `, ${profileSummary(module)}`}
            {module.partNumber && `, part ${module.partNumber}`}
          </span>
        </p>
      )}
      {findings.map((finding) => {
        const { title, mend } = explainFinding(finding);
        return (
          <p key={title} className="flex items-start gap-2">
            <Mark kind={KINDS[finding.severity]} />
            <span className="min-w-0 break-words">
              <b>{title}.</b> {mend}
            </span>
          </p>
        );
      })}
    </div>
  );
}
