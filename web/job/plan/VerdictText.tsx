import { explainBeaten, explainObjection, planText } from '#core/explaining';
import type { PlanQuery, Verdict } from '#core/planning';
import { Notice } from '../../ui/Notice.tsx';

interface VerdictTextProps {
  readonly query: PlanQuery;
  readonly currency: string;
  readonly nameOffer: (id: string) => string;
  readonly verdict: Verdict;
}

/** What became of a hand-made plan: what is against it, what beats it, or that it stands. */
export function VerdictText({ query, currency, nameOffer, verdict }: VerdictTextProps) {
  const { plan, objections } = verdict.assessment;
  if (verdict.type === 'refused')
    return (
      <div className="grid gap-3 text-aside">
        {objections
          .flatMap((one) => explainObjection(one, query, currency, nameOffer))
          .map(({ title, why, mend }) => (
            <Notice key={title} kind="stop" title={title} why={why} mend={mend} />
          ))}
      </div>
    );
  const [by] = verdict.type === 'beaten' ? verdict.by : [];
  if (by) {
    const { title, why } = explainBeaten(plan, by, query.machine, currency);
    return (
      <div className="text-aside">
        <Notice kind="caution" title={title} why={why} />
      </div>
    );
  }
  return (
    <div className="text-aside">
      <Notice
        kind="ok"
        title="Nothing beats it"
        why={`${planText(plan, query.machine)}: no plan is at least as good in all six objectives.`}
      />
    </div>
  );
}
