import { CodeReader } from '../ui/CodeReader.tsx';
import { Notice } from '../ui/Notice.tsx';
import { meaningOfText } from './scanned.ts';
import type { Scanned } from './scanned.ts';

interface ScanCodeProps {
  readonly onScanned: (scanned: Scanned) => void;
  /** The last one was a result of the measuring page. */
  readonly wasResult: boolean;
}

/** Codes from anywhere: a bench tag opens its job, a part code is looked for. */
export function ScanCode({ onScanned, wasResult }: ScanCodeProps) {
  return (
    <div className="grid gap-3">
      {wasResult && (
        <Notice
          alert
          kind="note"
          title="This is a result of the measuring page"
          why="It does not say which job it is for, nor whether it was measured before or after fitting."
          mend="Open the job, press “Add runs” at Inspect or Prove, choose “Measuring page”, and scan it there."
        />
      )}
      <p>A bench tag opens its job; any other code is looked for.</p>
      <CodeReader onText={(text) => onScanned(meaningOfText(text))} />
    </div>
  );
}
