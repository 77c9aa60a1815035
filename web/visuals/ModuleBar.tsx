import { gb } from '#core/explaining';
import { moduleSummary, profileSummary } from '#core/memory';
import type { MemoryModule } from '#core/memory';

/** What a change does to a module. */
export type ModuleState = 'kept' | 'moved' | 'added' | 'pulled' | 'spare' | 'soldered';

const LOOKS: Readonly<Record<ModuleState, string>> = {
  kept: 'bg-sheet border-edge border-b-edge',
  moved: 'bg-sheet border-dashed border-copper border-b-copper',
  added: 'bg-copper-wash border-copper border-b-copper',
  pulled: 'bg-bone border-edge border-b-[var(--bone-mark)]',
  spare: 'bg-bone border-edge border-b-[var(--bone-mark)]',
  soldered: 'bg-teal-wash border-teal-wash border-b-board-line',
};

interface ModuleBarProps {
  readonly module: MemoryModule;
  readonly state: ModuleState;
  readonly isNarrow?: boolean;
}

/** A module: size first, then what it is; the contact edge below shows what happens to it. */
export function ModuleBar({ module, state, isNarrow = false }: ModuleBarProps) {
  const profile = profileSummary(module);
  const chip = state !== 'kept' && (
    <span className="rounded-full border border-current bg-sheet px-2 text-aside font-bold">
      {state}
    </span>
  );
  return (
    <span
      className={`flex min-h-11 min-w-0 grow flex-wrap items-center gap-x-3 rounded-sm border border-b-4 px-3 text-left text-ink ${LOOKS[state]}`}
    >
      <span className="flex flex-col items-start">
        <b className={`${isNarrow ? 'text-body' : 'text-lg'} whitespace-nowrap`}>
          {gb(module.capacity)}
        </b>
        {isNarrow && chip}
      </span>
      <span className="figure min-w-28 grow basis-0 text-aside break-words">
        {moduleSummary(module)}
        {module.partNumber && (
          <>
            &nbsp;· <span className="inline-block max-w-full break-all">{module.partNumber}</span>
          </>
        )}
        {profile && <span>&nbsp;· {profile}</span>}
      </span>
      {!isNarrow && chip}
    </span>
  );
}
