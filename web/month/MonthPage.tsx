import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { MonthAnswer } from '#contract/month';
import { count, money, monthText, shareText, smallText, spreadText } from '#core/explaining';
import { benchNow } from '../app/benchClock.ts';
import { monthApi } from '../app/monthApi.ts';
import { Button } from '../ui/Button.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { useCurrency } from '../ui/useCurrency.ts';
import { Page } from '../ui/Page.tsx';
import { JobLinks } from './MonthTable.tsx';
import { Money, Promises, Quotes, Returns, TurnRound, Waiting } from './parts.tsx';

const monthOf = (date: Date) =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}`;

/** A month some months from another. */
function shifted(month: string, by: number): string {
  const [year = 2026, number = 1] = month.split('-').map(Number);
  return monthOf(new Date(year, number - 1 + by, 1));
}

/** The owner's month: what took how long, what was sold, kept and sent back, and what it brought. */
export function MonthPage() {
  const [query, setQuery] = useSearchParams();
  const now = monthOf(new Date(benchNow()));
  const asked = query.get('m') ?? now;
  const month = /^20\d{2}-(?:0[1-9]|1[0-2])$/.test(asked) ? asked : now;
  const { data, error, refetch } = monthApi.useMonthQuery(month, {
    refetchOnMountOrArgChange: true,
  });
  const go = (to: string) => setQuery(to === now ? {} : { m: to }, { replace: true });
  return (
    <Page
      title={monthText(`${month}-01`)}
      actions={
        <span className="flex gap-3">
          <Button look="quiet" onClick={() => go(shifted(month, -1))}>
            Month before
          </Button>
          <Button look="quiet" disabled={month >= now} onClick={() => go(shifted(month, 1))}>
            Month after
          </Button>
        </span>
      }
    >
      {data?.month === month ? (
        <Figures data={data} />
      ) : error ? (
        <Failed failure={error} what="the month" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the month" />
      )}
    </Page>
  );
}

function Figures({ data }: { readonly data: MonthAnswer }) {
  const { opened, closed, quotes, isOver, waiting } = data;
  const isBare = opened.length + closed.length + quotes.issued === 0;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <Headline data={data} />
      {isBare && (
        <Empty title="Nothing was taken in, quoted or handed over in this month.">
          Months fill by themselves as jobs go through the bench.
        </Empty>
      )}
      {closed.length > 0 && <TurnRound data={data} />}
      {!isOver && waiting.length > 0 && <Waiting data={data} />}
      {quotes.issued > 0 && <Quotes data={data} />}
      {closed.length > 0 && <Promises data={data} />}
      {closed.length > 0 && <Money data={data} />}
      <Returns data={data} />
    </div>
  );
}

/** The month in a few figures; each opens what is behind it. */
function Headline({ data }: { readonly data: MonthAnswer }) {
  const currency = useCurrency();
  const { closed, opened, turnRound, promises, money: paid, drawer, isOver } = data;
  const [open, setOpen] = useState<string>();
  const { spread } = turnRound.whole;
  const total = paid.parts + paid.labour - paid.credit;
  const lines = [
    ['Handed over', count(closed.length, 'job'), smallText(closed.length), closed],
    ['Taken in', count(opened.length, 'job'), '', opened],
    [
      'From taken in to handed over',
      spread ? spreadText(spread) : 'none yet',
      '',
      turnRound.whole.jobs,
    ],
    [
      'Ready by the promised day',
      promises.keptShare ? shareText(promises.keptShare) : 'no day was promised',
      '',
      [...promises.missed, ...promises.kept],
    ],
    ['Paid by customers', money(total, currency), '', paid.jobs],
  ] as const;
  return (
    <section className="sheet" aria-label="The month in short">
      <dl className="grid gap-x-6 sm:grid-cols-[16rem_1fr] sm:gap-y-1">
        {lines.map(([name, text, few, jobs]) => (
          <div key={name} className="contents">
            <dt className="flex items-center text-muted max-sm:mt-2 sm:min-h-10">{name}</dt>
            <dd className="min-w-0">
              {jobs.length > 0 ? (
                <Button
                  look="quiet"
                  className="-ml-1 text-left font-bold"
                  aria-expanded={open === name}
                  aria-label={`${name}: ${text}, show the jobs`}
                  onClick={() => setOpen(open === name ? undefined : name)}
                >
                  {text}
                </Button>
              ) : (
                <b className="flex items-center sm:min-h-10">{text}</b>
              )}
              {few !== '' && jobs.length > 0 && (
                <span className="text-aside text-muted"> {few}</span>
              )}
              {open === name && <JobLinks jobs={jobs} />}
            </dd>
          </div>
        ))}
        <dt className="flex items-center text-muted max-sm:mt-2 sm:min-h-10">
          {isOver ? 'In the drawer at its end' : 'In the drawer now'}
        </dt>
        <dd className="flex min-h-10 flex-wrap items-center gap-x-2">
          <Link className="link font-bold" to="/drawer">
            {count(drawer.pieces, 'module')}
          </Link>
          {money(drawer.price, currency)} at price, {money(drawer.cost, currency)} at cost
          {drawer.withoutCost > 0 && (
            <span className="text-aside text-muted">{drawer.withoutCost} without a known cost</span>
          )}
        </dd>
      </dl>
    </section>
  );
}
