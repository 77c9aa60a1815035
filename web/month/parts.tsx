import { useState } from 'react';
import type { ReactNode } from 'react';
import type { MonthAnswer } from '#contract/month';
import {
  RETURNS_BY_WORDS,
  STAND_WORDS,
  STRETCH_WORDS,
  count,
  hoursText,
  money,
  shareText,
  spreadText,
} from '#core/explaining';
import { RETURNS_BY } from '#core/month';
import type { ReturnsBy } from '#core/month';
import { amountText } from '#core/quoting';
import { useCurrency } from '../ui/useCurrency.ts';
import { BarPicture } from './BarPicture.tsx';
import { JobLinks, MonthTable } from './MonthTable.tsx';

interface PartProps {
  readonly data: MonthAnswer;
}

/** A part of the month: its question as the title, a picture beside its table. */
function Part({
  title,
  picture,
  children,
}: {
  readonly title: string;
  readonly picture?: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <section className="sheet" aria-label={title}>
      <h2 className="mb-2 font-bold">{title}</h2>
      <div
        className={
          picture
            ? 'flex flex-wrap gap-6 [&>*]:min-w-0 [&>*]:basis-96 [&>*]:grow [&>*:empty]:hidden'
            : ''
        }
      >
        {picture && <div className="min-w-0">{picture}</div>}
        <div className="min-w-0">{children}</div>
      </div>
    </section>
  );
}

/** What took how long, stretch by stretch. */
export function TurnRound({ data: { month, turnRound } }: PartProps) {
  const told = turnRound.stretches.filter(({ spread }) => spread);
  const rounded = (hours: number) => Math.round(hours * 10) / 10;
  return (
    <Part
      title="Where the time went, of jobs handed over"
      picture={
        <BarPicture
          label="Hours of each stretch, the middle one of all jobs"
          unit="hours, the middle of all jobs"
          bars={told.map(({ stretch, spread }) => [
            STRETCH_WORDS[stretch],
            rounded(spread?.median ?? 0),
          ])}
        />
      }
    >
      <MonthTable
        caption="Stretches of jobs handed over"
        file={`turn-round-${month}`}
        heads={['Stretch', 'Middle of all jobs', 'Jobs']}
        opens={2}
        rows={told.map(({ stretch, spread, jobs }) => ({
          key: stretch,
          cells: [STRETCH_WORDS[stretch], spread ? spreadText(spread) : '', String(jobs.length)],
          plain: [STRETCH_WORDS[stretch], rounded(spread?.median ?? 0), jobs.length],
          jobs,
        }))}
      />
    </Part>
  );
}

/** What open jobs wait for just now. */
export function Waiting({ data: { month, waiting } }: PartProps) {
  return (
    <Part title="Where open jobs wait now">
      <MonthTable
        caption="Open jobs by their next step"
        file={`waiting-${month}`}
        heads={['Next step', 'Longest untouched', 'Jobs']}
        opens={2}
        rows={waiting.map(({ step, jobs }) => ({
          key: step,
          cells: [step, hoursText(jobs[0]?.hours ?? 0), String(jobs.length)],
          plain: [step, Math.round(jobs[0]?.hours ?? 0), jobs.length],
          jobs,
        }))}
      />
    </Part>
  );
}

/** Quotes issued, and how they stand. */
export function Quotes({ data: { month, quotes } }: PartProps) {
  const stands = quotes.stands.filter(({ jobs }) => jobs.length > 0);
  return (
    <Part
      title={`Quotes: ${quotes.issued} issued`}
      picture={
        <BarPicture
          label="Quotes of the month by how they stand"
          unit="quotes"
          isWhole
          bars={stands.map(({ stand, jobs }) => [STAND_WORDS[stand], jobs.length])}
        />
      }
    >
      <MonthTable
        caption="Quotes by how they stand"
        file={`quotes-${month}`}
        heads={['Stands', 'Quotes']}
        opens={1}
        rows={stands.map(({ stand, jobs }) => ({
          key: stand,
          cells: [STAND_WORDS[stand], String(jobs.length)],
          jobs,
        }))}
      />
      {quotes.acceptedShare && (
        <p className="mt-2">Accepted of those decided: {shareText(quotes.acceptedShare)}.</p>
      )}
      {quotes.reasons.length > 0 && (
        <>
          <h3 className="mt-2 font-bold">Why they declined</h3>
          <ul className="grid gap-1">
            {quotes.reasons.map(({ reason, job }) => (
              <li key={job.id} className="flex flex-wrap items-center gap-x-3 break-words">
                “{reason}” <JobLinks jobs={[job]} />
              </li>
            ))}
          </ul>
        </>
      )}
    </Part>
  );
}

/** Days promised and kept. */
export function Promises({ data: { month, promises } }: PartProps) {
  const { kept, missed, keptShare, withoutDay } = promises;
  if (!keptShare) return null;
  return (
    <Part title="Promised days">
      <MonthTable
        caption="Promised days, kept and missed"
        file={`promised-days-${month}`}
        heads={['', 'By', 'Jobs']}
        opens={2}
        rows={[
          { key: 'kept', cells: ['Kept', '', String(kept.length)], jobs: kept },
          {
            key: 'missed',
            cells: [
              'Missed',
              missed.length === 0
                ? ''
                : `${count(missed[0]?.days ?? 0, 'day')} at most, ${count(missed[Math.floor(missed.length / 2)]?.days ?? 0, 'day')} in the middle`,
              String(missed.length),
            ],
            jobs: missed,
          },
        ]}
      />
      <p className="mt-2 text-aside text-muted">
        {shareText(keptShare)} kept.{' '}
        {withoutDay > 0 && `${count(withoutDay, 'job')} had no promised day.`}
      </p>
    </Part>
  );
}

/** What customers paid for, and what is left of the parts. */
export function Money({ data: { month, money: paid } }: PartProps) {
  const currency = useCurrency();
  const total = paid.parts + paid.labour - paid.credit;
  const jobs = paid.jobs;
  const plainAmount = (amount: number) => Number(amountText(amount, currency));
  const lines = [
    ['Parts', paid.parts],
    ['Labour', paid.labour],
    ['Credit for pulled modules', 0 - paid.credit],
    ['Paid together', total],
    ['Left of the parts, tax and cost taken off', paid.earnedOnParts],
  ] as const;
  return (
    <Part
      title="Money, of jobs handed over"
      picture={
        <BarPicture
          label="Money of the month"
          unit={currency}
          bars={lines.map(([name, amount]) => [name, plainAmount(amount)])}
        />
      }
    >
      {jobs.length > 0 && (
        <MonthTable
          caption="Money of jobs handed over"
          file={`money-${month}`}
          heads={['', 'Amount, tax included', 'Jobs']}
          opens={2}
          rows={lines.map(([name, amount]) => {
            const behind =
              name === 'Left of the parts, tax and cost taken off'
                ? jobs.filter(({ id }) => !paid.costUnknown.some((one) => one.id === id))
                : jobs;
            return {
              key: name,
              cells: [name, money(amount, currency), String(behind.length)],
              plain: [name, plainAmount(amount), behind.length],
              jobs: behind,
            };
          })}
        />
      )}
      {paid.costUnknown.length > 0 && (
        <Aside text="not counted in what is left: a cost is not known" jobs={paid.costUnknown} />
      )}
      {paid.withoutQuote.length > 0 && (
        <Aside text="handed over without an accepted quote" jobs={paid.withoutQuote} />
      )}
    </Part>
  );
}

interface AsideProps {
  readonly text: string;
  readonly jobs: MonthAnswer['closed'];
}

function Aside({ text, jobs }: AsideProps) {
  return (
    <div className="mt-2 text-aside">
      {count(jobs.length, 'job')} {text}
      <JobLinks jobs={jobs} />
    </div>
  );
}

/** What came back, against what was sold. */
export function Returns({ data: { month, returns } }: PartProps) {
  const [by, setBy] = useState<ReturnsBy>('part');
  const { inMonth, inYear, soldInYear } = returns;
  const rows = inYear[by];
  return (
    <Part title="What came back">
      <p>
        {inMonth.length === 0
          ? 'Nothing came back in this month. '
          : `${count(inMonth.length, 'module')} in this month. `}
        In the year up to its end{' '}
        {count(
          rows.reduce((sum, { back }) => sum + back, 0),
          'module',
        )}{' '}
        of {soldInYear} sold.
      </p>
      {inMonth.length > 0 && <JobLinks jobs={inMonth} />}
      {rows.length > 0 && (
        <>
          <label className="my-2 flex items-center gap-2">
            <span className="text-muted">told by</span>
            <select
              className="input w-auto!"
              value={by}
              onChange={({ target }) => setBy(target.value as ReturnsBy)}
            >
              {RETURNS_BY.map((one) => (
                <option key={one} value={one}>
                  {RETURNS_BY_WORDS[one].toLowerCase()}
                </option>
              ))}
            </select>
          </label>
          <MonthTable
            key={by}
            caption={`Returns of the year by ${by}`}
            file={`returns-by-${by}-${month}`}
            heads={[RETURNS_BY_WORDS[by], 'Came back', 'Of those sold in the year']}
            opens={1}
            rows={rows.map(({ name, back, sold, share, jobs }) => ({
              key: name,
              cells: [
                name || 'not known',
                String(back),
                share
                  ? shareText(share)
                  : by === 'fault'
                    ? ''
                    : `${sold ?? 0} sold on record: no rate can be told`,
              ],
              plain: [name, back, sold ?? ''],
              jobs,
            }))}
          />
        </>
      )}
    </Part>
  );
}
