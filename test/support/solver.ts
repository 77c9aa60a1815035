import loadHighs from 'highs';
import type { Solved, Solver } from '#core/planning';

/** The solver the page uses, loaded for Node. */
export async function nodeSolver(): Promise<Solver> {
  const highs = await loadHighs();
  return (lp, timeLimitS): Solved => {
    const answer = highs.solve(lp, { time_limit: timeLimitS, presolve: 'on' });
    const columns = Object.entries(answer.Columns as Record<string, { Primal?: number }>);
    const values = Object.fromEntries(columns.map(([name, { Primal = 0 }]) => [name, Primal]));
    const status =
      answer.Status === 'Optimal'
        ? 'optimal'
        : answer.Status === 'Infeasible'
          ? 'infeasible'
          : 'stopped';
    return { status, objective: answer.ObjectiveValue, values };
  };
}
