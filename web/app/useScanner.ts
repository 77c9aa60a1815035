import { useEffect, useRef } from 'react';
import { isTyping, notePressed } from './keys.ts';
import { meaningOf } from './scanned.ts';
import type { Scanned, ScannedKey } from './scanned.ts';

/** Longest between two keys of a scanner, ms; nobody types this fast for long. */
const GAP_MS = 50;
/** Fewer keys than this are no code. */
const LEAST = 4;

/** Who hears a scanner, the last one alone: a page takes codes to itself, the frame what is left. */
const hearers: object[] = [];

/**
 * Hears a scanner that types: a burst of keys that ends in Enter, from anywhere but a field, which it
 * fills as if by hand.
 *
 * @param isFrame - hears only what no page on it takes
 */
export function useScanner(onScan: (scanned: Scanned) => void, isFrame = false): void {
  const latest = useRef(onScan);
  useEffect(() => {
    latest.current = onScan;
  });
  useEffect(() => {
    let keys: ScannedKey[] = [];
    let last = -Infinity;
    // A page’s effects run before those of the frame around it.
    if (isFrame) hearers.unshift(latest);
    else hearers.push(latest);
    const listen = (event: KeyboardEvent) => {
      if (hearers.at(-1) !== latest) return;
      const { key, code, shiftKey: shift, timeStamp } = event;
      if (isTyping(event.target) || event.ctrlKey || event.altKey || event.metaKey) return;
      const isBurst = timeStamp - last <= GAP_MS;
      if (key.length === 1) {
        notePressed();
        keys = [...(isBurst ? keys : []), { key, code, shift }];
        last = timeStamp;
      } else if (key === 'Enter') {
        const scanned = keys;
        keys = [];
        if (!isBurst || scanned.length < LEAST) return;
        // What has the focus is not pressed by it, and its last letter is no shortcut either.
        notePressed();
        event.preventDefault();
        event.stopImmediatePropagation();
        latest.current(meaningOf(scanned));
      }
      // Shift goes down and up between the letters of a code.
    };
    document.addEventListener('keydown', listen, { capture: true });
    return () => {
      hearers.splice(hearers.indexOf(latest), 1);
      document.removeEventListener('keydown', listen, { capture: true });
    };
  }, [isFrame]);
}
