import { useEffect, useRef } from 'react';

/** A shortcut: the key as shown, what it does, and the doing. */
export interface Shortcut {
  /** `P`, `?`, `Ctrl Z`. Letters alone do nothing while typing. */
  readonly keys: string;
  readonly does: string;
  readonly run: () => void;
}

const active = new Set<{ readonly current: readonly Shortcut[] }>();

/** Every shortcut that works just now, for the list under `?`. */
export function activeShortcuts(): Shortcut[] {
  return [...active].flatMap(({ current }) => [...current]);
}

/** Whether keys go into a field. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

function matches({ keys }: Shortcut, event: KeyboardEvent): boolean {
  const parts = keys.split(' ');
  const key = parts.at(-1)?.toLowerCase();
  const withControl = parts.includes('Ctrl');
  if ((event.ctrlKey || event.metaKey) !== withControl || event.altKey) return false;
  if (withControl && event.shiftKey !== parts.includes('Shift')) return false;
  return (event.key === ' ' ? 'space' : event.key.toLowerCase()) === key;
}

let pressed = 0;

/** Told of every sign that is typed outside a field, and of the end of a scanned code. */
export const notePressed = (): void => void pressed++;

/** A scanner’s next key comes sooner than this, ms. */
const SCANNER_MS = 60;

/** A letter alone waits a blink: it may be the first of a code that a scanner types. */
function runUnlessScanned(run: () => void): void {
  const before = pressed;
  setTimeout(() => {
    if (pressed === before) run();
  }, SCANNER_MS);
}

/** Makes shortcuts work while the component is shown. The later component wins. */
export function useShortcuts(shortcuts: readonly Shortcut[]): void {
  const latest = useRef(shortcuts);
  useEffect(() => {
    latest.current = shortcuts;
  });
  useEffect(() => {
    active.add(latest);
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || document.querySelector('[role=dialog]')) return;
      const shortcut = latest.current.find((one) => matches(one, event));
      if (!shortcut || (isTyping(event.target) && !shortcut.keys.startsWith('Ctrl K'))) return;
      event.preventDefault();
      if (event.key.length === 1 && !shortcut.keys.includes(' ')) runUnlessScanned(shortcut.run);
      else shortcut.run();
    };
    document.addEventListener('keydown', listen);
    return () => {
      active.delete(latest);
      document.removeEventListener('keydown', listen);
    };
  }, []);
}
