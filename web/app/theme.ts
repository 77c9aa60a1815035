type Theme = 'light' | 'dark';
const KEY = 'tembrix.theme';
const PREFERRED = '(prefers-color-scheme: dark)';
const CHANGED = 'tembrix-theme';

/** The theme chosen here before, else what the system prefers. */
export function currentTheme(): Theme {
  const chosen = localStorage.getItem(KEY);
  if (chosen === 'light' || chosen === 'dark') return chosen;
  return matchMedia(PREFERRED).matches ? 'dark' : 'light';
}

/** Keeps the page in the current theme, also when the system turns to the other at dusk. */
export function keepTheme(): void {
  const apply = () => (document.documentElement.dataset.theme = currentTheme());
  onTheme(apply);
  apply();
}

/** Goes to the other theme and remembers it. */
export function toggleTheme(): void {
  localStorage.setItem(KEY, currentTheme() === 'dark' ? 'light' : 'dark');
  dispatchEvent(new Event(CHANGED));
}

/** Calls back on every change of theme, until what is returned is called. */
export function onTheme(changed: () => void): () => void {
  const preferred = matchMedia(PREFERRED);
  preferred.addEventListener('change', changed);
  addEventListener(CHANGED, changed);
  return () => {
    preferred.removeEventListener('change', changed);
    removeEventListener(CHANGED, changed);
  };
}

const PAPER = 'print';

/** The theme whose colours show just now: on paper it is the light one, whatever was chosen. */
export const shownTheme = (): Theme => (matchMedia(PAPER).matches ? 'light' : currentTheme());

/** Calls back on every change of the theme that shows, also as a page goes to paper and comes back. */
export function onShownTheme(changed: () => void): () => void {
  const paper = matchMedia(PAPER);
  paper.addEventListener('change', changed);
  const stop = onTheme(changed);
  return () => {
    paper.removeEventListener('change', changed);
    stop();
  };
}
