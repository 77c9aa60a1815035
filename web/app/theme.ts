type Theme = 'light' | 'dark';
const KEY = 'tembrix.theme';

/** The theme chosen here before, else what the system prefers. */
export function currentTheme(): Theme {
  const chosen = localStorage.getItem(KEY);
  if (chosen === 'light' || chosen === 'dark') return chosen;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

/** Puts a theme on the page. */
export function applyTheme(theme: Theme = currentTheme()): void {
  document.documentElement.dataset.theme = theme;
}

/** Goes to the other theme and remembers it. */
export function toggleTheme(): void {
  const next = currentTheme() === 'dark' ? 'light' : 'dark';
  localStorage.setItem(KEY, next);
  applyTheme(next);
}
