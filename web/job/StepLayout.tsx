import type { ReactNode } from 'react';
import type { useFileDrop } from '../ui/FileDrop.tsx';
import { WhyPanel } from '../ui/Why.tsx';

interface StepLayoutProps {
  readonly children: ReactNode;
  /** Reasons and limits, in the narrow column. */
  readonly aside: ReactNode;
  readonly bar: ReactNode;
  /** Nothing stands beside the sheet. */
  readonly isWide?: boolean;
  /** Takes files dropped anywhere on the sheets. */
  readonly drop?: ReturnType<typeof useFileDrop>['handlers'];
}

/** The work on one sheet, the reasons beside it, the answer below. */
export function StepLayout({ children, aside, bar, drop, isWide = false }: StepLayoutProps) {
  return (
    <>
      <div
        {...drop}
        className={`grid grow items-start gap-3.5 ${isWide ? 'content-start' : 'lg:grid-cols-[minmax(0,1fr)_20.5rem]'}`}
      >
        <div className="sheet min-w-0">{children}</div>
        <aside aria-label="Reasons" className="grid grid-cols-[minmax(0,1fr)] gap-3.5">
          <WhyPanel />
          {aside}
        </aside>
      </div>
      {bar}
    </>
  );
}

/** A titled part of a sheet. */
export function Part({
  title,
  hint,
  action,
  children,
}: {
  title: string;
  hint?: string;
  action?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section className="border-line not-first:mt-4 not-first:border-t not-first:pt-3">
      <Heading title={title} hint={hint} action={action} />
      {children}
    </section>
  );
}

/** A sheet of the narrow column. */
export function AsideSheet({
  title,
  hint,
  children,
}: {
  title: string;
  hint?: string;
  children: ReactNode;
}) {
  return (
    <section className="sheet">
      <Heading title={title} hint={hint} />
      {children}
    </section>
  );
}

interface HeadingProps {
  readonly title: string;
  readonly hint?: string | undefined;
  readonly action?: ReactNode;
}

function Heading({ title, hint, action }: HeadingProps) {
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-3">
      <h2 className="font-bold">{title}</h2>
      {hint && <span className="text-aside text-muted">{hint}</span>}
      {action && <span className="ml-auto">{action}</span>}
    </div>
  );
}
