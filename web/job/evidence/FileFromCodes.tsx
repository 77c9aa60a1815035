import { useRef, useState } from 'react';
import { count, list } from '#core/explaining';
import { fileOfCodes, missingOf, readFileCode, withCode } from '#core/inventory';
import type { SeenCodes } from '#core/inventory';
import { CodeReader } from '../../ui/CodeReader.tsx';
import { Notice } from '../../ui/Notice.tsx';

interface FileFromCodesProps {
  readonly onFile: (file: File) => void;
}

const FAULTS = {
  other: {
    title: 'This is no code of a file',
    why: 'The measuring page shows a collected file as codes that belong together.',
    mend: 'Open that page on the machine, choose “Carry a collected file as codes” and the file.',
  },
  newer: {
    title: 'These codes are of a newer measuring page',
    why: 'They may hold what this bench does not know.',
    mend: 'Update this bench, or drop the file itself.',
  },
  damaged: {
    title: 'The codes do not make the file they name',
    why: 'One of them was read wrongly. Nothing was taken.',
    mend: 'Scan them again, closer and without glare.',
  },
} as const;

/** A collected file off the machine's own screen, code by code, where no file can be carried away. */
export function FileFromCodes({ onFile }: FileFromCodesProps) {
  const [isOpen, setOpen] = useState(false);
  const [taken, setTaken] = useState<number>();
  return (
    <details open={isOpen} onToggle={({ currentTarget: { open } }) => setOpen(open)}>
      <summary className="link min-h-6 cursor-pointer text-aside">
        Does its screen show the file as codes? Scan them
      </summary>
      {taken !== undefined && !isOpen && (
        <p role="status" className="text-aside">
          ✓ The file came in {count(taken, 'code')}.
        </p>
      )}
      {isOpen && (
        <Scanning
          onFile={(file, codes) => {
            setTaken(codes);
            setOpen(false);
            onFile(file);
          }}
        />
      )}
    </details>
  );
}

interface ScanningProps {
  readonly onFile: (file: File, codes: number) => void;
}

function Scanning({ onFile }: ScanningProps) {
  const [seen, setSeen] = useState<SeenCodes>();
  const [fault, setFault] = useState<keyof typeof FAULTS>();
  // The camera sees a code several times a second: what it has told is known before the page is painted.
  const latest = useRef<SeenCodes>(undefined);
  const take = (text: string) => {
    const code = readFileCode(text);
    if (!code || code === 'newer') return setFault(code ?? 'other');
    const now = withCode(latest.current, code);
    const isLast = missingOf(now).length === 0;
    const file = isLast ? fileOfCodes(now) : undefined;
    const isDamaged = isLast && file === undefined;
    latest.current = isDamaged ? undefined : now;
    setSeen(latest.current);
    setFault(isDamaged ? 'damaged' : undefined);
    if (file !== undefined)
      onFile(new File([file], 'collected.json', { type: 'application/json' }), now.total);
  };
  return (
    <div className="mt-2 grid gap-3">
      <p role="status">
        {seen
          ? `${seen.pieces.size} of ${count(seen.total, 'code')}; still to come: ${list(missingOf(seen).map(String))}.`
          : 'In any order; each stands for a second or two.'}
      </p>
      {fault && <Notice alert kind="stop" {...FAULTS[fault]} />}
      <CodeReader goesOn onText={take} />
    </div>
  );
}
