import { useState } from 'react';
import { Button } from './Button.tsx';
import { CodeReader } from './CodeReader.tsx';
import { TextField } from './Field.tsx';

interface SerialFieldProps {
  readonly label?: string;
  readonly value: string;
  readonly onChange: (serial: string) => void;
}

/** A module's serial number: typed, by a hand-held scanner, or by the camera. */
export function SerialField({ label = 'Serial number', value, onChange }: SerialFieldProps) {
  const [isScanning, setScanning] = useState(false);
  const [refused, setRefused] = useState<string>();
  const take = (text: string) => {
    const code = text.trim();
    // A tag of the bench, or a file in codes, lies on the same table.
    if (/^https?:|:.*:|\s/.test(code) || code.length > 60) return setRefused(code.slice(0, 40));
    setRefused(undefined);
    setScanning(false);
    onChange(code);
  };
  return (
    <div>
      <TextField
        label={label}
        hint="as its sticker has it; empty: not noted"
        spellCheck={false}
        maxLength={60}
        error={refused === undefined ? undefined : `“${refused}” is no serial number.`}
        value={value}
        onChange={({ target }) => {
          setRefused(undefined);
          onChange(target.value);
        }}
      />
      <Button look="quiet" aria-expanded={isScanning} onClick={() => setScanning(!isScanning)}>
        {isScanning ? 'stop scanning' : 'scan it'}
      </Button>
      {isScanning && <CodeReader goesOn onText={take} />}
    </div>
  );
}
