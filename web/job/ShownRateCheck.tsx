import { useState } from 'react';
import { explainShownRate } from '#core/explaining';
import type { Running } from '#core/operating-point';
import { judgeShownRate } from '#core/proving';
import { TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';

const KINDS = {
  'as expected': 'ok',
  slower: 'caution',
  faster: 'caution',
  'no rate': 'stop',
} as const;

/** Judges a rate read off a firmware screen, with the clock and data rate trap minded. */
export function ShownRateCheck({ point }: { readonly point: Running }) {
  const [text, setText] = useState('');
  const reading = Number(text.replace(',', '.'));
  const shown = text.trim() === '' ? undefined : judgeShownRate(reading, point);
  return (
    <>
      <TextField
        label="The screen shows, MHz or MT/s"
        inputMode="decimal"
        value={text}
        onChange={({ target }) => setText(target.value)}
      />
      {shown && (
        <div className="mt-2" aria-live="polite">
          <Notice kind={KINDS[shown.type]} {...explainShownRate(shown)} />
        </div>
      )}
    </>
  );
}
