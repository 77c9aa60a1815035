import { explainGrade, explainSchoolRow } from '#core/explaining';
import type { Judgement, MatchReport, School } from '#core/matching';
import { Mark } from '../ui/Mark.tsx';
import { WhyLink } from '../ui/Why.tsx';

const MARKS = { accept: 'ok', caution: 'caution', refuse: 'stop' } as const;
const WORDS: Readonly<Record<Judgement, string>> = {
  accept: 'yes',
  caution: 'with caution',
  refuse: 'no',
};

interface SchoolsProps {
  readonly report: MatchReport;
  /** The school this job follows. */
  readonly chosen: School;
}

/** The match grade and what each school would say, the job's own first in weight. */
export function Schools({ report, chosen }: SchoolsProps) {
  if (report.schools.length === 0)
    return <p className="text-muted">Nothing to judge until it runs.</p>;
  return (
    <>
      <p className="mb-2">
        Match: <b>{report.grade}</b>, {explainGrade(report.grade)}
      </p>
      <ul className="grid gap-1.5">
        {report.schools.map(({ school, judgement, rows }) => {
          const decisive = rows.filter(
            (row) => row.judgement === judgement && judgement !== 'accept',
          );
          const shown = decisive.length > 0 ? decisive : rows;
          return (
            <li key={school} className="flex items-start gap-2">
              <Mark kind={MARKS[judgement]} />
              <span className="min-w-0 grow">
                <span className={school === chosen ? 'font-bold' : ''}>
                  {school[0]?.toUpperCase()}
                  {school.slice(1)}
                </span>
                {' – '}
                <b>{WORDS[judgement]}</b>
                {decisive[0] && `: ${explainSchoolRow(decisive[0])}`}
                {school === chosen && <span className="text-aside text-muted"> (this job)</span>}
              </span>
              <WhyLink
                title={`the ${school} school says ${WORDS[judgement]}`}
                reasons={shown.map((row) => ({
                  title: `${row.question}: ${WORDS[row.judgement]}`,
                  why: explainSchoolRow(row),
                }))}
              />
            </li>
          );
        })}
      </ul>
    </>
  );
}
