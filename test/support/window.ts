import { cleanup, configure } from '@testing-library/react';
import { afterEach, vi } from 'vitest';

// Pages are shown in one window, file after file: what a test leaves in it is taken away.

// A part that is fetched when it is wanted takes seconds on a busy machine; what never comes is still found.
configure({ asyncUtilTimeout: 60_000 });

/** A stream nothing ever comes through. */
class SilentSource extends EventTarget {
  close() {
    // Nothing was open.
  }
}

// For good, not for a test: what is loaded late opens its stream when the test is over.
if (!('EventSource' in globalThis)) Object.assign(globalThis, { EventSource: SilentSource });

afterEach(() => {
  cleanup();
  localStorage.clear();
  sessionStorage.clear();
  document.body.replaceChildren();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
