import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { currentTheme, keepTheme, onTheme, toggleTheme } from './theme.ts';

let isDark = false;
const listeners = new Set<() => void>();
beforeEach(() =>
  vi.stubGlobal('matchMedia', () => ({
    get matches() {
      return isDark;
    },
    addEventListener: (_: string, run: () => void) => listeners.add(run),
    removeEventListener: (_: string, run: () => void) => listeners.delete(run),
  })),
);
const systemTurns = (dark: boolean) => {
  isDark = dark;
  for (const run of listeners) run();
};
const shown = () => document.documentElement.dataset.theme;

afterEach(() => {
  localStorage.clear();
  isDark = false;
});

test('the page turns with the system, until somebody chooses', () => {
  keepTheme();
  expect(shown()).toBe('light');
  systemTurns(true);
  expect(shown()).toBe('dark');
  toggleTheme();
  expect(shown()).toBe('light');
  systemTurns(false);
  systemTurns(true);
  expect(shown()).toBe('light');
  expect(currentTheme()).toBe('light');
});

test('whoever listens is told of either, and no longer once done', () => {
  const told = vi.fn();
  const stop = onTheme(told);
  systemTurns(true);
  toggleTheme();
  expect(told).toHaveBeenCalledTimes(2);
  stop();
  toggleTheme();
  systemTurns(false);
  expect(told).toHaveBeenCalledTimes(2);
});
