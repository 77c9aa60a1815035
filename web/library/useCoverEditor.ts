import { useState } from 'react';
import { coverMap as coverSchema } from '#contract/bench';
import type { MachineRecord } from '#contract/records';
import { findCoverFaults } from '#core/fitting';
import type { CoverPart } from '#core/fitting';
import { api } from '../app/api.ts';
import { useShortcuts } from '../app/keys.ts';
import { useSave } from '../ui/useSave.ts';
import { useSteady } from '../ui/useSteady.ts';
import { useCoverDraft } from './useCoverDraft.ts';

/** What can be marked on a cover, and what each is called. */
export const KINDS = [
  ['fastener', 'Screw'],
  ['clip', 'Clip'],
  ['cable', 'Lead'],
] as const;
type Kind = CoverPart['kind'];

/** A new part like the last of its kind: covers are held by few sorts of screws. */
function partLike(kind: Kind, parts: readonly CoverPart[], x: number, y: number): CoverPart {
  const numbers = parts.map(({ id }) => Number(id.replace(/\D/g, '')) || 0);
  const spot = { id: `p${Math.max(0, ...numbers) + 1}`, x: Math.round(x), y: Math.round(y) };
  if (kind === 'clip') return { kind, ...spot };
  if (kind === 'cable') return { kind, ...spot, what: 'lead' };
  const last = parts.findLast((part) => part.kind === 'fastener');
  return last
    ? { ...last, ...spot, under: 'nothing' }
    : {
        kind,
        ...spot,
        drive: 'cross',
        size: 'PH1',
        length: 'unknown',
        captive: false,
        under: 'nothing',
      };
}

/** A cover map being drawn: its parts, the one chosen, what is wrong with it, and saving it. */
export function useCoverEditor(record: MachineRecord) {
  const draft = useCoverDraft(record);
  const { map, set } = draft;
  const [kind, setKind] = useState<Kind>('fastener');
  const [chosen, setChosen] = useState<string>();
  const [saveCover] = api.useSaveCoverMutation();
  const saving = useSave(saveCover, draft.forget);
  const faults = findCoverFaults(map);
  const checked = coverSchema.safeParse(map);
  const base = useSteady(record, draft.isChanged).version;
  const send = (version = base) =>
    void saving.save({ id: record.id, body: { coverMap: map, version } });
  useShortcuts([
    ...(draft.canUndo ? [{ keys: 'Ctrl Z', does: 'Undo on the map', run: draft.undo }] : []),
    ...(draft.isChanged ? [{ keys: 'S', does: 'Save the map', run: () => send() }] : []),
  ]);
  return {
    ...{ record, draft, map, set, kind, setKind, chosen, setChosen, saving, send, faults },
    part: map.parts.find(({ id }) => id === chosen),
    /** What no single part is to blame for. */
    shape: checked.success ? [] : checked.error.issues.map(({ message }) => message),
    add: (x: number, y: number) => {
      const made = partLike(kind, map.parts, x, y);
      set((now) => ({ ...now, parts: [...now.parts, made] }));
      setChosen(made.id);
    },
  };
}

export type CoverEditorState = ReturnType<typeof useCoverEditor>;
