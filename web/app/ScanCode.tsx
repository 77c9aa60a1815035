import { CodeReader } from '../ui/CodeReader.tsx';
import { Notice } from '../ui/Notice.tsx';
import { meaningOfText } from './scanned.ts';
import type { Scanned } from './scanned.ts';

interface ScanCodeProps {
  readonly onScanned: (scanned: Scanned) => void;
  /** What the last one was, where that belongs elsewhere. */
  readonly was: keyof typeof ELSEWHERE | undefined;
}

const ELSEWHERE = {
  result: {
    title: 'This is a result of the measuring page',
    why: 'It does not say which job it is for, nor whether it was measured before or after fitting.',
    mend: 'Open the job, press “Add runs” at Inspect or Prove, choose “Measuring page”, and scan it there.',
  },
  file: {
    title: 'This is part of a collected file',
    why: 'It does not say which job it is for, and the other codes belong to it.',
    mend: 'Open the job at Inspect, or a new one, and press “Does its screen show the file as codes?” there.',
  },
} as const;

/** Codes from anywhere: a bench tag opens its job, a part code is looked for. */
export function ScanCode({ onScanned, was }: ScanCodeProps) {
  return (
    <div className="grid gap-3">
      {was && <Notice alert kind="note" {...ELSEWHERE[was]} />}
      <p>A bench tag opens its job; any other code is looked for.</p>
      <CodeReader onText={(text) => onScanned(meaningOfText(text))} />
    </div>
  );
}
