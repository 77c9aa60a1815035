import { api } from './api.ts';
import type { ApiFailure } from './api.ts';
import { store } from './store.ts';

const AGAIN_MS = 1000;

/** Whether the bench answers, whatever it says; the page tells where it does not. */
async function benchAnswers(): Promise<boolean> {
  const asked = api.endpoints.health.initiate(undefined, { forceRefetch: true, subscribe: false });
  const { error } = await store.dispatch(asked);
  return (error as ApiFailure | undefined)?.type !== 'offline';
}

/**
 * A part of the page that is fetched when it is wanted. Where the bench is away it is waited for, as
 * saves are, and what is shown stays as it is.
 *
 * @throws Error when the bench is there and does not have the part
 */
export async function fetched<Part>(load: () => Promise<Part>): Promise<Part> {
  for (;;) {
    const part = await load().catch(() => undefined);
    if (part !== undefined) return part;
    if (await benchAnswers()) break;
    await new Promise((again) => setTimeout(again, AGAIN_MS));
  }
  // It may have come back between the two questions.
  return load().catch((error: unknown) => {
    const why =
      'A part of this page is no longer on the bench, which was updated since you opened it.';
    throw new Error(why, { cause: error });
  });
}
