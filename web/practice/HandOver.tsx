import { useState } from 'react';
import { FINDINGS, findingText } from '#core/explaining';
import type { CauseKind } from '#core/diagnosing';
import type { Action, World } from '#core/practice';
import { Button } from '../ui/Button.tsx';
import { SelectField } from '../ui/Field.tsx';

interface HandOverProps {
  readonly world: World;
  readonly onAct: (action: Action) => void;
  readonly onClose: () => void;
}

/** What was behind it, and then it is the customer's again. */
export function HandOver({ world, onAct, onClose }: HandOverProps) {
  const [finding, setFinding] = useState<CauseKind | 'nothing'>('nothing');
  const wantsFinding = world.exercise.symptom !== undefined;
  return (
    <section aria-label="Hand over" className="sheet mt-3.5 grid gap-3 border-copper">
      {wantsFinding && (
        <SelectField
          label="What was behind it"
          value={finding}
          onChange={({ target }) => setFinding(target.value as CauseKind | 'nothing')}
          options={[
            ['nothing', findingText('nothing')],
            ...FINDINGS.map((one) => [one, findingText(one)] as const),
          ]}
        />
      )}
      <p className="text-muted">
        Handed over, the exercise is at its end and is gone through again.
      </p>
      <p className="flex flex-wrap gap-2">
        <Button look="main" onClick={() => onAct({ type: 'hand over', finding })}>
          Hand it over
        </Button>
        <Button onClick={onClose}>Not yet</Button>
      </p>
    </section>
  );
}
