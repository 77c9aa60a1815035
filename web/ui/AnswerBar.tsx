import type { ReactNode } from 'react';
import type { Explanation } from '#core/explaining';
import { WhyLink } from './Why.tsx';

interface AnswerBarProps {
  /** What the figures are about, for those who hear the page. */
  readonly label: string;
  readonly children: ReactNode;
  readonly actions?: ReactNode;
}

/** The bar that always says what is true now, and holds the one next action. */
export function AnswerBar({ label, children, actions }: AnswerBarProps) {
  return (
    <section
      aria-label={label}
      className="no-print sticky bottom-0 z-10 mt-4 flex items-center gap-x-6 gap-y-2 rounded-t-lg max-lg:flex-wrap border border-b-0 border-edge bg-sheet px-5 py-2.5 shadow-[0_-4px_12px_rgb(0_0_0/0.08)]"
    >
      <div aria-live="polite" className="flex min-w-0 grow flex-wrap items-center gap-x-6 gap-y-1">
        {children}
      </div>
      {actions && <div className="flex shrink-0 flex-wrap items-center gap-3">{actions}</div>}
    </section>
  );
}

interface AnswerProps {
  readonly label: string;
  readonly children: ReactNode;
  /** What it was before the change. */
  readonly was?: string | undefined;
  /** Reasons behind the figure. */
  readonly why?: readonly Explanation[] | undefined;
}

/** One large figure of the bar. */
export function Answer({ label, children, was, why }: AnswerProps) {
  return (
    <div className="min-w-0">
      <p className="flex flex-wrap items-baseline gap-x-2 text-aside text-muted">
        <span>
          {label}
          {was && ` · was ${was}`}
        </span>
        {why && <WhyLink title={label} reasons={why} />}
      </p>
      <p className="text-answer font-bold break-words">{children}</p>
    </div>
  );
}
