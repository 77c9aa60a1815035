import type { ReactNode } from 'react';
import type { ApiFailure } from '../app/api.ts';
import { Button } from './Button.tsx';
import { Notice } from './Notice.tsx';

/** Shown while the server's answer is on its way; appears only if that takes a while. */
export function Loading({ what }: { readonly what: string }) {
  return (
    <p role="status" className="animate-[fade_0s_0.3s_both] p-4 text-muted">
      Fetching {what} …
    </p>
  );
}

interface FailedProps {
  readonly failure: unknown;
  readonly what: string;
  readonly onRetry: () => void;
}

/** Shown where an answer should stand and did not come. */
export function Failed({ failure, what, onRetry }: FailedProps) {
  const { type, ...rest } = failure as ApiFailure;
  const problem = type === 'problem' && 'problem' in rest ? rest.problem : undefined;
  return (
    <Notice
      alert
      kind="stop"
      title={problem?.title ?? `Could not fetch ${what}`}
      why={
        problem?.detail ??
        (type === 'signed out' ? 'Nobody is signed in.' : 'The server does not answer.')
      }
      mend={problem?.mend ?? 'Check that it runs. Nothing is lost.'}
    >
      <Button onClick={onRetry}>Try again</Button>
    </Notice>
  );
}

/** Shown where there is nothing yet, with what to do about it. */
export function Empty({
  title,
  children,
}: {
  readonly title: string;
  readonly children?: ReactNode;
}) {
  return (
    <div className="rounded-md border border-dashed border-edge p-5">
      <p className="font-bold">{title}</p>
      {children && <div className="mt-1 text-muted">{children}</div>}
    </div>
  );
}
