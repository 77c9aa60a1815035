import type { ComponentProps } from 'react';
import { Kbd } from './Kbd.tsx';

interface ButtonProps extends ComponentProps<'button'> {
  /** `main` for the one next action of a page. */
  readonly look?: 'main' | 'plain' | 'quiet';
  /** The key that does the same. */
  readonly keys?: string;
}

const LOOKS = {
  main: 'bg-teal text-on-teal font-bold px-4',
  plain: 'border border-edge bg-sheet px-4 font-bold',
  quiet: 'text-teal underline underline-offset-3 px-1',
} as const;

/** A button large enough for a thumb. */
export function Button({ look = 'plain', keys, children, className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`min-h-10 rounded-md disabled:opacity-50 ${LOOKS[look]} ${className}`}
      {...rest}
    >
      {children}
      {keys && <Kbd keys={keys} />}
    </button>
  );
}
