import loadHighs from 'highs';
import type { Solved, Solver } from '#core/planning';

/** The solver the page uses, loaded for Node. */
export async function nodeSolver(): Promise<Solver> {
  const highs = await loadHighs();
  return (lp, timeLimitS): Solved => {
    const answer = highs.solve(lp, { time_limit: timeLimitS, presolve: 'on' });
    const values = Object.fromEntries(
      Object.entries(answer.Columns).map(([name, column]) => [
        name,
        'Primal' in column ? Number(column.Primal) : 0,
      ]),
    );
    const status =
      answer.Status === 'Optimal'
        ? 'optimal'
        : answer.Status === 'Infeasible'
          ? 'infeasible'
          : 'stopped';
    return { status, objective: answer.ObjectiveValue, values };
  };
}
