import { act } from '@testing-library/react';
import type { ScannedKey } from '#web/app/scanned.ts';

const US_SIGNS: Readonly<Record<string, readonly [string, boolean]>> = {
  ...{ ':': ['Semicolon', true], '/': ['Slash', false], '.': ['Period', false] },
  ...{ '-': ['Minus', false], _: ['Minus', true], ' ': ['Space', false] },
};
/** Keys of a scanner made for one layout, on a system set to another. */
export const keysOf = (
  text: string,
  shown: (sign: string) => string = (sign) => sign,
): ScannedKey[] =>
  [...text].map((sign) => {
    const [code, shift] =
      US_SIGNS[sign] ??
      (/\d/.test(sign)
        ? [`Digit${sign}`, false]
        : [`Key${sign.toUpperCase()}`, sign !== sign.toLowerCase()]);
    return { key: shown(sign), code, shift };
  });
/** Keys as they come: a scanner’s within a millisecond of one another. */
export function press(keys: readonly ScannedKey[], apart = 1, target: Element = document.body) {
  let pressedEnter = false;
  act(() => {
    for (const [at, { key, code, shift }] of [
      ...keys,
      { key: 'Enter', code: 'Enter', shift: false },
    ].entries()) {
      const event = new KeyboardEvent('keydown', {
        ...{ key, code, shiftKey: shift, bubbles: true, cancelable: true },
      });
      Object.defineProperty(event, 'timeStamp', { value: 1000 + at * apart });
      target.dispatchEvent(event);
      pressedEnter = event.defaultPrevented;
    }
  });
  return pressedEnter;
}
