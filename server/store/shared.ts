/**
 * One run of something for all who ask until its turn comes. Whoever asks later needs another: it may
 * have begun too early for them.
 *
 * @param run - calls what it is given when its turn has come, at the last moment it still serves whoever asks
 * @returns asks for a run whose turn comes after now, and resolves when that has ended
 */
export function shared(run: (begin: () => void) => Promise<unknown>): () => Promise<void> {
  let inLine: { ended: Promise<void> } | undefined;
  return () => {
    if (inLine) return inLine.ended;
    const turn = (inLine = { ended: Promise.resolve() });
    const leave = () => {
      if (inLine === turn) inLine = undefined;
    };
    turn.ended = (async () => {
      try {
        await run(leave);
      } finally {
        leave();
      }
    })();
    return turn.ended;
  };
}
