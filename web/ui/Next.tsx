import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** A link that looks like the one next action. */
export function Next({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Link
      to={to}
      className="inline-flex min-h-10 items-center rounded-md bg-teal px-4 font-bold text-on-teal max-sm:min-h-11"
    >
      {children}
    </Link>
  );
}
