import type { ComponentProps, ReactNode } from 'react';

interface PageProps extends Omit<ComponentProps<'main'>, 'title' | 'className'> {
  readonly title: string;
  /** Beside the title: what can be done with the whole page. */
  readonly actions?: ReactNode;
  /** Narrow for a form that is read from top to bottom. */
  readonly isNarrow?: boolean;
}

/** The frame of a page that is no step of a job: its title, what it offers, and what it holds. */
export function Page({ title, actions, isNarrow = false, children, ...main }: PageProps) {
  return (
    <main
      className={`relative mx-auto w-full grow px-5 py-4 max-sm:px-2 ${isNarrow ? 'max-w-3xl' : 'max-w-[1400px]'}`}
      {...main}
    >
      <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="text-answer font-bold">{title}</h1>
        {actions}
      </div>
      {children}
    </main>
  );
}
