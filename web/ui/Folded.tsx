import { useState } from 'react';
import type { ReactNode } from 'react';

/** A part that waits folded: a tool, whose heading says enough until it is wanted. */
export function FoldedPart({ title, hint, children }: FoldedPartProps) {
  return (
    <details className="group/fold border-line not-first:mt-4 not-first:border-t not-first:pt-1">
      <FoldedHeading title={title} hint={hint} />
      {children}
    </details>
  );
}

/** A sheet that waits folded. */
export function FoldedSheet({ title, hint, isHeavy = false, children }: FoldedSheetProps) {
  const [wasOpen, setWasOpen] = useState(!isHeavy);
  return (
    <details className="group/fold sheet py-1!" onToggle={() => setWasOpen(true)}>
      <FoldedHeading title={title} hint={hint} />
      <div className="pb-2">{wasOpen && children}</div>
    </details>
  );
}

interface FoldedSheetProps extends FoldedPartProps {
  /** What stands in it takes work: it is done once somebody opens it. */
  readonly isHeavy?: boolean;
}

interface FoldedPartProps {
  readonly title: string;
  readonly hint?: string | undefined;
  readonly children: ReactNode;
}

/** Points down once the fold it stands in (`group/fold`) is open. */
export const Turner = () => (
  <span aria-hidden className="text-muted group-open/fold:rotate-90">
    ▸
  </span>
);

const FoldedHeading = ({ title, hint }: Omit<FoldedPartProps, 'children'>) => (
  <summary className="flex min-h-10 cursor-pointer flex-wrap items-center gap-x-3">
    <Turner />
    <h2 className="font-bold">{title}</h2>
    {hint && <span className="text-aside text-muted">{hint}</span>}
  </summary>
);
