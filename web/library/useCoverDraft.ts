import { useCallback, useState } from 'react';
import type { MachineRecord } from '#contract/records';
import type { CoverMap, CoverPart } from '#core/fitting';
import { dropDraft, keepDraft, storedDraft } from '../ui/useDraft.ts';

const BLANK: CoverMap = { width: 330, height: 230, parts: [], note: '' };

interface History {
  readonly past: readonly CoverMap[];
  readonly map: CoverMap;
}

/** A cover map being drawn: kept in this browser until it is saved, each stroke undone by itself. */
export function useCoverDraft({ id, coverMap }: MachineRecord) {
  const name = `cover.${id}`;
  const [{ past, map }, setHistory] = useState<History>(() => ({
    past: [],
    map: storedDraft<CoverMap>(name) ?? coverMap ?? BLANK,
  }));
  const set = useCallback(
    (change: (map: CoverMap) => CoverMap) =>
      setHistory(({ past: before, map: now }) => {
        const next = change(now);
        keepDraft(name, next);
        return { past: [...before.slice(-49), now], map: next };
      }),
    [name],
  );
  return {
    map,
    isChanged: JSON.stringify(map) !== JSON.stringify(coverMap ?? BLANK),
    canUndo: past.length > 0,
    set,
    setPart: (partId: string, change: Partial<CoverPart>) =>
      set((now) => ({
        ...now,
        parts: now.parts.map((part) =>
          part.id === partId ? ({ ...part, ...change } as CoverPart) : part,
        ),
      })),
    undo: () =>
      setHistory(({ past: before, map: now }) => {
        const last = before.at(-1);
        if (last) keepDraft(name, last);
        return last ? { past: before.slice(0, -1), map: last } : { past: before, map: now };
      }),
    /** What is saved is the draft no longer. */
    forget: () => dropDraft(name),
    discard: () => {
      dropDraft(name);
      setHistory({ past: [], map: coverMap ?? BLANK });
    },
  };
}

export type CoverDraft = ReturnType<typeof useCoverDraft>;
