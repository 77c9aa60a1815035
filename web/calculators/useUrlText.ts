import { useSearchParams } from 'react-router';

/** A text of the page that stands in its address, so that a link shows the same. */
export function useUrlText(key: string, usual: string): [string, (text: string) => void] {
  const [params, setParams] = useSearchParams();
  const set = (text: string) =>
    setParams(
      (now) => {
        const next = new URLSearchParams(now);
        if (text === usual) next.delete(key);
        else next.set(key, text);
        return next;
      },
      { replace: true, preventScrollReset: true },
    );
  return [params.get(key) ?? usual, set];
}

/** A figure typed with point or comma, within bounds; `undefined` for anything else. */
export function figureIn(text: string, low: number, high: number): number | undefined {
  const value = text.trim() === '' ? NaN : Number(text.replace(',', '.'));
  return value >= low && value <= high ? value : undefined;
}
