import { channelsWord, gb, list } from '#core/explaining';
import type { Machine, Placement } from '#core/machine';
import { lanesOf, operatingPoint } from '#core/operating-point';
import { slotChanges } from '#core/planning';
import type { Plan, SlotChange } from '#core/planning';

interface PlanPictureProps {
  readonly machine: Machine;
  readonly fitted: Placement;
  readonly plan: Plan;
}

const LOOKS: Readonly<Record<SlotChange['state'], readonly [sign: string, look: string]>> = {
  kept: ['', 'border-edge bg-bone'],
  added: ['+', 'border-teal bg-teal text-on-teal font-bold'],
  moved: ['→', 'border-copper bg-copper-wash font-bold'],
  pulled: ['✕', 'border-dashed border-stop text-stop line-through'],
  left: ['', 'border-dashed border-edge text-muted'],
  empty: ['', 'border-dashed border-edge text-muted'],
};

/** One slot in words: `A1 keeps 8 GB`. */
function slotWords({ printedName, state, module, isFromDrawer }: SlotChange): string {
  const size = module ? gb(module.capacity) : '';
  switch (state) {
    case 'kept':
      return `${printedName} keeps ${size}`;
    case 'added':
      return `${printedName} gets ${size}${isFromDrawer ? ' from the drawer' : ''}`;
    case 'moved':
      return `${printedName} gets ${size} from another slot`;
    case 'pulled':
      return `${printedName} loses ${size}`;
    case 'left':
    case 'empty':
      return `${printedName} is empty`;
  }
}

/** A plan at a glance: what happens in each slot, and how much of it runs side by side. */
export function PlanPicture({ machine, fitted, plan }: PlanPictureProps) {
  const changes = slotChanges(machine, fitted, plan);
  const point = operatingPoint(machine, plan.placement, plan.setting);
  const words = [
    ...changes.map(slotWords),
    ...(plan.setting === 'profile' ? ['the profile is on'] : []),
  ];
  if (changes.length === 0) return null;
  return (
    <div
      role="img"
      aria-label={list(words)}
      className="my-1 flex flex-wrap items-center gap-x-4 gap-y-1"
    >
      <span className="flex flex-wrap gap-1">
        {changes.map(({ slotId, printedName, state, module }) => {
          const [sign, look] = LOOKS[state];
          return (
            <span
              key={slotId}
              className={`flex min-w-13 flex-col items-center rounded-sm border px-1 text-[0.75rem] leading-tight ${look}`}
            >
              <span className="figure max-w-16 truncate">{printedName}</span>
              <span className="figure">
                {sign}
                {module ? gb(module.capacity) : '–'}
              </span>
            </span>
          );
        })}
        {plan.setting === 'profile' && (
          <span className="self-center rounded-sm border border-edge px-1 text-[0.75rem]">
            profile
          </span>
        )}
      </span>
      {point.type === 'runs' && (
        <span className="grid w-36 gap-0.5">
          {lanesOf(point).map(({ channel, segments }, at) => (
            <span key={channel} className="flex h-1.5 rounded-sm bg-bone">
              {segments.map(({ share, width }, part) => (
                <span
                  key={part}
                  title={channelsWord(width)}
                  className={width > 1 ? `lane-${at % 4}` : 'lane-tail'}
                  style={{ width: `${100 * share}%` }}
                />
              ))}
            </span>
          ))}
        </span>
      )}
    </div>
  );
}
