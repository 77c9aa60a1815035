import { QUESTION_WORDS } from '#core/explaining';
import { QUESTIONS } from '#core/practice';
import type { Action, World } from '#core/practice';
import { Button } from '../ui/Button.tsx';

interface CustomerProps {
  readonly world: World;
  readonly onAct: (action: Action) => void;
}

/** What the customer says, and what one can ask. */
export function Customer({ world: { exercise }, onAct }: CustomerProps) {
  return (
    <section aria-label="The customer" className="sheet">
      <p>
        <b>The customer:</b> “{exercise.customer.says}”
      </p>
      <p className="mt-2 flex flex-wrap gap-2">
        {QUESTIONS.map((about) => (
          <Button key={about} className="text-aside" onClick={() => onAct({ type: 'ask', about })}>
            {QUESTION_WORDS[about]}
          </Button>
        ))}
      </p>
    </section>
  );
}
