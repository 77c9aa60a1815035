import { expect, test } from 'vitest';
import { onItsWay } from './onItsWay.ts';

/** Whether the browser would ask before it leaves the page. */
const isAsked = () => !window.dispatchEvent(new Event('beforeunload', { cancelable: true }));

test('the page is left unasked only when nothing is on its way, whether it got through or not', async () => {
  expect(isAsked()).toBe(false);
  let store: (answer: string) => void = () => undefined;
  let refuse: (error: Error) => void = () => undefined;
  const stored = onItsWay(new Promise<string>((settle) => (store = settle)));
  const refused = onItsWay(new Promise<string>((_settle, fail) => (refuse = fail)));
  expect(isAsked()).toBe(true);
  store('stored');
  expect(await stored).toBe('stored');
  expect(isAsked()).toBe(true);
  refuse(new Error('refused'));
  await expect(refused).rejects.toThrow('refused');
  expect(isAsked()).toBe(false);
});
