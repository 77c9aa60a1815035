import { useState } from 'react';
import type { ReactNode } from 'react';
import type { Explanation } from '#core/explaining';
import { useNarrow } from './useNarrow.ts';
import { WhyLink } from './Why.tsx';

interface AnswerBarProps {
  /** What the figures are about, for those who hear the page. */
  readonly label: string;
  readonly children: ReactNode;
  readonly actions?: ReactNode;
}

/** The bar that always says what is true now, and holds the one next action. */
export function AnswerBar({ label, children, actions }: AnswerBarProps) {
  const isNarrow = useNarrow();
  const [isOpen, setOpen] = useState(false);
  // On a phone one line says the first of it; a press opens the rest.
  const isShort = isNarrow && !isOpen;
  return (
    <section
      aria-label={label}
      className={`no-print sticky bottom-0 z-10 mt-4 flex items-center gap-x-6 gap-y-2 rounded-t-lg border border-b-0 border-edge bg-sheet px-5 py-2.5 shadow-[0_-4px_12px_rgb(0_0_0/0.08)] max-sm:gap-x-2 max-sm:px-3 max-sm:py-1.5 ${isShort ? '' : 'max-lg:flex-wrap'}`}
    >
      <div
        aria-live="polite"
        className={`flex min-w-0 grow flex-wrap items-center gap-x-6 gap-y-1 ${isShort ? 'basis-0 text-body [--text-answer:1.0625rem] [&_[data-was]]:hidden [&>*:nth-child(n+2)]:hidden' : 'max-xl:[--text-answer:1.1875rem]'}`}
      >
        {children}
      </div>
      {isNarrow && (
        <button
          type="button"
          aria-expanded={isOpen}
          aria-label={isOpen ? 'Show less of it' : 'Show all of it'}
          className="link min-h-11 min-w-11 shrink-0 text-aside"
          onClick={() => setOpen(!isOpen)}
        >
          {isOpen ? 'less' : 'more'}
        </button>
      )}
      {actions && (
        <div
          className={`flex shrink-0 flex-wrap items-center gap-3 max-sm:gap-1.5 ${isShort ? 'max-w-[55%] justify-end' : ''}`}
        >
          {actions}
        </div>
      )}
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
          {was && <span data-was=""> · was {was}</span>}
        </span>
        {why && <WhyLink title={label} reasons={why} />}
      </p>
      <p className="text-answer font-bold break-words">{children}</p>
    </div>
  );
}
