import type { ReactNode } from 'react';

/** What a working comes to, large, with a word to it. */
export function Result({
  children,
  aside,
}: {
  readonly children: ReactNode;
  readonly aside?: ReactNode;
}) {
  return (
    <div className="mt-3" aria-live="polite">
      <p className="text-answer font-bold tabular-nums">{children}</p>
      {aside && <p className="text-aside text-muted">{aside}</p>}
    </div>
  );
}
