/** Kinds of status. Each has a shape and a sign of its own; colour only helps. */
export type MarkKind = 'ok' | 'caution' | 'stop' | 'same' | 'note';

const MARKS = {
  ok: { sign: '✓', look: 'rounded border-ok bg-ok-wash text-ok', word: 'good' },
  caution: {
    sign: '?',
    look: 'rounded-full border-caution bg-caution-wash text-caution',
    word: 'caution',
  },
  stop: { sign: '✕', look: 'rounded-full border-stop bg-stop-wash text-stop', word: 'stop' },
  same: { sign: '=', look: 'rounded-full border-edge bg-paper text-ink', word: 'no change' },
  note: { sign: 'i', look: 'rounded-full border-edge bg-paper text-ink', word: 'note' },
} as const;

/** A status mark; the words stand beside it. */
export function Mark({ kind }: { readonly kind: MarkKind }) {
  const { sign, look, word } = MARKS[kind];
  return (
    <span
      role="img"
      aria-label={word}
      className={`inline-flex size-5 shrink-0 items-center justify-center border text-[0.75rem] leading-none font-bold ${look}`}
    >
      {sign}
    </span>
  );
}
