import type { Board, Load } from './board.ts';
import type { Kind } from './supply.ts';

/** Every stacking of tokens into ordered columns whose rows agree with the row's first. */
export function stackColumns<T extends { readonly kind: number; left: number }>(
  { channels }: Board,
  kinds: readonly Kind[],
  tokens: readonly T[],
  soldered: readonly { readonly channel: number; readonly token: T }[],
  agrees: (a: T, b: T) => boolean,
  visit: (columns: readonly (readonly T[])[], loads: readonly Load[]) => boolean,
): void {
  const loads = channels.map(({ soldered: load }) => ({ ...load }));
  const columns: T[][] = channels.map(() => []);
  const base = channels.map((_, at) =>
    soldered.filter(({ channel }) => channel === at).map(({ token }) => token),
  );
  let left = tokens.reduce((sum, token) => sum + token.left, 0);
  const rowFirst = (row: number, before: number): T | undefined => {
    for (let at = 0; at < before; at++) {
      const under = base[at] ?? [];
      const found = under[row] ?? columns[at]?.[row - under.length];
      if (found) return found;
    }
    return undefined;
  };
  const room = channels.map((_, at) =>
    channels.slice(at).reduce((sum, { slots }) => sum + slots.length, 0),
  );
  /** False ends everything. */
  const fill = (channel: number): boolean => {
    if (channel === channels.length) return left > 0 || visit(columns, loads);
    const column = columns[channel];
    const load = loads[channel];
    const under = base[channel] ?? [];
    if (!column || !load || left > (room[channel] ?? 0) - column.length) return true;
    // Soldered parts have to agree with what already stands in their rows.
    for (let row = 0; row < under.length && column.length === 0; row++) {
      const first = rowFirst(row, channel);
      const own = under[row];
      if (first && own && !agrees(first, own)) return true;
    }
    if (column.length < (channels[channel]?.slots.length ?? 0)) {
      const first = rowFirst(under.length + column.length, channel);
      for (const token of tokens) {
        if (token.left === 0 || (first && !agrees(first, token))) continue;
        const saved = { ...load };
        const kind = kinds[token.kind];
        token.left -= 1;
        left -= 1;
        column.push(token);
        load.capacity += kind?.capacity ?? 0;
        load.modules += 1;
        if (Number.isNaN(kind?.ranks)) load.unranked += 1;
        else load.ranks += kind?.ranks ?? 0;
        const goOn = fill(channel);
        Object.assign(load, saved);
        column.pop();
        left += 1;
        token.left += 1;
        if (!goOn) return false;
      }
    }
    return fill(channel + 1);
  };
  fill(0);
}
