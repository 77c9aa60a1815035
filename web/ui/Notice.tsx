import type { ReactNode } from 'react';
import { figuresTogether } from '#core/units';
import { Mark } from './Mark.tsx';
import type { MarkKind } from './Mark.tsx';

interface NoticeProps {
  readonly kind: MarkKind;
  readonly title: string;
  readonly why?: string | undefined;
  readonly mend?: string | undefined;
  readonly children?: ReactNode;
  /** Read out at once by assistive technology. */
  readonly alert?: boolean;
}

const EDGES = {
  ok: 'border-ok',
  caution: 'border-caution',
  stop: 'border-stop',
  same: 'border-edge',
  note: 'border-edge',
};

/** What holds, why, and what would mend it. */
export function Notice({ kind, title, why, mend, children, alert = false }: NoticeProps) {
  return (
    <div role={alert ? 'alert' : undefined} className={`border-l-4 py-1 pl-3 ${EDGES[kind]}`}>
      <p className="flex items-start gap-2 font-bold">
        <Mark kind={kind} />
        <span className="min-w-0 break-words">{figuresTogether(title)}</span>
      </p>
      {why && <p className="mt-1 break-words">{figuresTogether(why)}</p>}
      {mend && (
        <p className="mt-1 break-words">
          <b>What to do:</b> {figuresTogether(mend)}
        </p>
      )}
      {children && <div className="mt-2">{children}</div>}
    </div>
  );
}
