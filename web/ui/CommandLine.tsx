import { useEffect, useState } from 'react';
import { Button } from './Button.tsx';

interface CommandLineProps {
  /** What the line is for. */
  readonly label: string;
  readonly text: string;
}

/** A line for another machine's shell, to be copied or typed. */
export function CommandLine({ label, text }: CommandLineProps) {
  const [isCopied, setCopied] = useState(false);
  useEffect(() => {
    if (!isCopied) return;
    const timer = setTimeout(() => setCopied(false), 2000);
    return () => clearTimeout(timer);
  }, [isCopied]);
  // A page without a secure address has no clipboard; the text can be marked by hand.
  const copy = () => navigator.clipboard?.writeText(text).then(() => setCopied(true));
  return (
    <div className="flex items-stretch gap-2">
      <code
        aria-label={label}
        className="figure min-w-0 grow rounded-md border border-line bg-sheet px-3 py-2 text-aside break-all select-all"
      >
        {text}
      </code>
      {'clipboard' in navigator && (
        <Button aria-label={`Copy: ${label}`} onClick={() => void copy()}>
          {isCopied ? 'copied' : 'Copy'}
        </Button>
      )}
    </div>
  );
}
