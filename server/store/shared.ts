/**
 * One run of something for all who ask while it could still serve them. A run under way may have
 * begun too early for whoever asks now, so at most one more is lined up behind it.
 *
 * @returns asks for a run that begins after now, and resolves when it has ended
 */
export function shared(run: () => Promise<unknown>): () => Promise<void> {
  let current: Promise<void> | undefined;
  let next: Promise<void> | undefined;
  const start = async () => {
    next = undefined;
    try {
      await run();
    } finally {
      current = undefined;
    }
  };
  return () => {
    if (next) return next;
    if (!current) return (current = start());
    const before = current;
    next = before.then(
      () => (current = start()),
      () => (current = start()),
    );
    return next;
  };
}
