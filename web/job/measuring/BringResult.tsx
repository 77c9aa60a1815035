import { useState } from 'react';
import type { SittingInput } from '#contract/measuring';
import { explainCarryFault, probeText } from '#core/explaining';
import { readCarryCode } from '#core/proving';
import { measuringApi } from '../../app/measuringApi.ts';
import { Button } from '../../ui/Button.tsx';
import { CodeReader } from '../../ui/CodeReader.tsx';
import { TextField } from '../../ui/Field.tsx';
import { FilePick } from '../../ui/FilePick.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';

interface BringResultProps {
  readonly jobId: string;
  readonly common: SittingInput;
}

/** A result carried by hand: the code typed or scanned, or the file the page saved. */
export function BringResult({ jobId, common }: BringResultProps) {
  const [code, setCode] = useState('');
  const [isScanning, setScanning] = useState(false);
  const [fault, setFault] = useState<string>();
  const [add] = measuringApi.useAddCarriedMutation();
  const adding = useSave(add, () => setCode(''));
  const read = code.trim() === '' ? undefined : readCarryCode(code);
  const isWhole = code.replaceAll(/[\s-]/g, '').length >= 32;
  const wrong = read && !read.ok && isWhole ? explainCarryFault(read.fault) : undefined;
  const pick = async (file: File) => {
    setFault(undefined);
    try {
      const body = { ...common, file: JSON.parse(await file.text()) as unknown };
      await adding.save({ id: jobId, body });
    } catch {
      setFault(`“${file.name.slice(0, 60)}” cannot be read as a result.`);
    }
  };
  return (
    <form
      className="grid gap-2"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        if (read?.ok) void adding.save({ id: jobId, body: { ...common, code } });
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <div className="grow basis-96">
          <TextField
            label="Code from the measuring page"
            className="figure"
            spellCheck={false}
            autoCapitalize="characters"
            placeholder="eight groups of four"
            value={code}
            error={wrong && `${wrong.title}. ${wrong.mend ?? ''}`}
            hint={read?.ok ? probeText(read.value) : undefined}
            onChange={({ target }) => setCode(target.value)}
          />
        </div>
        <Button type="submit" disabled={!read?.ok}>
          Take the code
        </Button>
        <Button look="quiet" aria-expanded={isScanning} onClick={() => setScanning(!isScanning)}>
          Scan it
        </Button>
        <FilePick
          label="or its file"
          accept=".json,application/json"
          onFile={(file) => void pick(file)}
        />
      </div>
      {isScanning && (
        <CodeReader
          onText={(text) => {
            // One code is one result; it is looked at in the field before it is taken.
            setCode(text);
            setScanning(false);
          }}
        />
      )}
      {fault && (
        <Notice alert kind="stop" title={fault} mend="Choose the file the measuring page saved." />
      )}
      <SaveNotice state={adding.state} />
    </form>
  );
}
