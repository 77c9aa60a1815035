import type { Board, Load } from './board.ts';
import type { Kind } from './supply.ts';

/**
 * Every stacking of tokens into ordered columns whose rows agree, each with each. Where all lie in one
 * channel of several, they have to agree with one another.
 *
 * @param anyOrder - where columns of interchangeable channels are exchanged, only one of such stackings is
 *   visited: loads tell no more than that
 */
export function stackColumns<T extends { readonly kind: number; left: number }>(
  { channels, fits, hasOwnMaxima }: Pick<Board, 'channels' | 'fits' | 'hasOwnMaxima'>,
  kinds: readonly Pick<Kind, 'capacity' | 'ranks'>[],
  tokens: readonly T[],
  soldered: readonly { readonly channel: number; readonly token: T }[],
  agrees: (a: T, b: T) => boolean,
  visit: (columns: readonly (readonly T[])[], loads: readonly Load[]) => boolean,
  anyOrder = false,
): void {
  const loads = channels.map(({ soldered: load }) => ({ ...load }));
  const columns: T[][] = channels.map(() => []);
  const base = channels.map((_, at) =>
    soldered.filter(({ channel }) => channel === at).map(({ token }) => token),
  );
  let left = tokens.reduce((sum, token) => sum + token.left, 0);
  const rowAgrees = (row: number, before: number, token: T): boolean => {
    for (let at = 0; at < before; at++) {
      const under = base[at] ?? [];
      const beside = under[row] ?? columns[at]?.[row - under.length];
      if (beside && !agrees(beside, token)) return false;
    }
    return true;
  };
  /** The one channel that holds anything, of several. */
  const onlyChannel = (): number => {
    const used = loads.flatMap(({ modules }, at) => (modules > 0 ? [at] : []));
    return used.length === 1 && channels.length > 1 ? (used[0] ?? -1) : -1;
  };
  const isAdmitted = (): boolean => {
    if (hasOwnMaxima && !columns.every((column, at) => fits(at, column.map(sizeOf), true)))
      return false;
    const only = onlyChannel();
    const all = only < 0 ? [] : [...(base[only] ?? []), ...(columns[only] ?? [])];
    return all.every((a, at) => all.slice(at + 1).every((b) => agrees(a, b)));
  };
  const twins = channels.map(({ alike }, at) =>
    anyOrder ? channels.slice(0, at).findLastIndex((one) => one.alike === alike) : -1,
  );
  /** A column as this one would become stands before its twin’s, which was there first. */
  const isBeforeTwin = (channel: number, column: readonly T[], token: T): boolean => {
    const twin = columns[twins[channel] ?? -1];
    if (!twin || column.some((one, row) => one !== twin[row])) return false;
    const beside = twin[column.length];
    return !beside || tokens.indexOf(token) < tokens.indexOf(beside);
  };
  const sizeOf = ({ kind }: T): number => kinds[kind]?.capacity ?? 0;
  const room = channels.map((_, at) =>
    channels.slice(at).reduce((sum, { slots }) => sum + slots.length, 0),
  );
  /** False ends everything. */
  const fill = (channel: number): boolean => {
    if (channel === channels.length) return left > 0 || !isAdmitted() || visit(columns, loads);
    const column = columns[channel];
    const load = loads[channel];
    const under = base[channel] ?? [];
    if (!column || !load || left > (room[channel] ?? 0) - column.length) return true;
    // Soldered parts have to agree with what already stands in their rows.
    for (let row = 0; row < under.length && column.length === 0; row++) {
      const own = under[row];
      if (own && !rowAgrees(row, channel, own)) return true;
    }
    if (column.length < (channels[channel]?.slots.length ?? 0)) {
      for (const token of tokens) {
        if (token.left === 0 || !rowAgrees(under.length + column.length, channel, token)) continue;
        if (isBeforeTwin(channel, column, token)) continue;
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
