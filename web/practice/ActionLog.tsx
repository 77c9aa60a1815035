import { actionText, figure, seenText, slotNames } from '#core/explaining';
import type { NameOf } from '#core/explaining';
import type { World } from '#core/practice';
import type { Step } from './practiceWalk.ts';

interface ActionLogProps {
  readonly world: World;
  readonly steps: readonly Step[];
  readonly names: NameOf;
}

/** Every act and what came of it, as text; the latest first. */
export function ActionLog({ world, steps, names }: ActionLogProps) {
  const nameOf = slotNames(world.exercise.machine);
  return (
    <section aria-label="What was done" className="sheet">
      <h2 className="font-bold">What was done</h2>
      {steps.length === 0 && <p className="text-muted">Nothing yet. The clock stands.</p>}
      {/* The latest stands first, so it is read first; long ones scroll, also by keys. */}
      <div
        role="log"
        aria-live="polite"
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        className="mt-1 max-h-96 overflow-y-auto"
      >
        <ol className="grid gap-1.5">
          {[...steps].reverse().map(({ action, seen, world: after, unsafe }, at) => (
            <li key={steps.length - at} className="border-t border-line pt-1.5 first:border-0">
              <p className="flex gap-2">
                <span className="grow">{actionText(action, nameOf, names)}</span>
                <span className="shrink-0 text-aside text-muted">{figure(after.minutes)} min</span>
              </p>
              <p className={`text-aside ${unsafe ? 'font-bold text-stop' : 'text-muted'}`}>
                {unsafe && '✕ '}
                {seenText(seen, nameOf, names)}
              </p>
            </li>
          ))}
        </ol>
      </div>
    </section>
  );
}
