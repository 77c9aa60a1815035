import type { Content, TableCell } from 'pdfmake/interfaces.js';
import type { Quote } from '#contract/quotes';
import type { Job } from '#contract/records';
import { jobMachine, snapshotOf } from '#contract/jobProof';
import { money, longDay } from '#core/explaining';
import { slotChanges } from '#core/planning';
import type { ShopTerms } from '#core/quoting';
import { LAST, makeOnePage } from './makePdf.ts';
import { INK, MUTED, TEAL, quietTable, shopHead } from './palette.ts';
import { slotPicture } from './pictures.ts';

/** A quote as the customer gets it: what is done, what it costs, what is promised and what is not. */
export async function quotePdf(
  job: Job,
  quote: Quote,
  terms: ShopTerms,
  logo?: string,
): Promise<Buffer> {
  const amount = (value: number) => money(value, quote.currency);
  const title = `Quote ${String(job.number).padStart(4, '0')}-${quote.number}`;
  const right = (text: string): TableCell => ({ text, alignment: 'right' });
  const found = snapshotOf(job, 'as-found')?.placement ?? {};
  const lines: TableCell[][] = quote.lines.map(({ text, quantity, each }) => [
    { text },
    right(String(quantity)),
    right(amount(each)),
    right(amount(quantity * each)),
  ]);
  // Distances go with the type, so that a long quote comes together as a whole.
  const heading = (text: string, size: number): Content => ({
    ...{ text, bold: true, margin: [0, 1.4 * size - 5, 0, 2] as [number, number, number, number] },
  });
  const bullets = (texts: readonly string[]): Content => ({ ul: [...texts], markerColor: TEAL });
  const lead =
    quote.leadDays === null
      ? 'The supplier has not said how long the parts take; we ask before ordering.'
      : quote.leadDays === 0
        ? 'All parts in stock.'
        : `Parts take about ${quote.leadDays} ${quote.leadDays === 1 ? 'day' : 'days'} to arrive.`;
  return makeOnePage((size) => ({
    info: { title },
    pageSize: terms.paper === 'Letter' ? 'LETTER' : 'A4',
    pageMargins: [46, 28, 46, 24],
    defaultStyle: { font: 'Tag', fontSize: size, lineHeight: 1.1, color: INK },
    content: [
      shopHead(terms, logo),
      { text: title, bold: true, fontSize: 20, margin: [0, 12, 0, 2] },
      {
        text: `For ${job.customer.name} · issued ${longDay(quote.issuedAt)} · valid until ${longDay(quote.validUntil)}`,
        color: MUTED,
      },
      { text: `${job.machine.machine.name}: ${job.complaint}`, margin: [0, 0.7 * size, 0, size] },
      {
        table: {
          headerRows: 1,
          widths: ['*', 46, 76, 76],
          body: [
            ['What', right('Number'), right('Each'), right('Together')].map((cell) =>
              typeof cell === 'string'
                ? { text: cell, bold: true }
                : { ...(cell as object), bold: true },
            ) as TableCell[],
            ...lines,
            [
              { text: 'Total', bold: true, fontSize: 12, colSpan: 3 },
              {},
              {},
              { text: amount(quote.total), bold: true, fontSize: 12, alignment: 'right' },
            ],
            [
              { text: `Tax included (${quote.taxPercent} %)`, color: MUTED, colSpan: 3 },
              {},
              {},
              { text: amount(quote.tax), color: MUTED, alignment: 'right' },
            ],
          ],
        },
        layout: {
          ...quietTable,
          paddingRight: (at: number) => (at === 3 ? 0 : 8),
          paddingTop: () => size - 6.5,
          paddingBottom: () => size - 6.5,
        },
      },
      { text: lead, margin: [0, 8, 0, 0] },
      heading('What you have, and what you get', size),
      slotPicture(found, slotChanges(jobMachine(job), found, quote.choice)),
      { text: [{ text: 'Now: ', bold: true }, quote.promise.now], margin: [0, 4, 0, 0] },
      { text: [{ text: 'Then: ', bold: true }, quote.promise.then] },
      ...(quote.promise.room === ''
        ? []
        : [{ text: quote.promise.room, margin: [0, 4, 0, 0] } as Content]),
      ...(quote.promise.gains.length > 0
        ? [
            heading('What the speed does to your work (promised range)', size),
            bullets(quote.promise.gains),
            ...(quote.promise.basis
              ? [{ text: quote.promise.basis, color: MUTED } as Content]
              : []),
          ]
        : []),
      ...(quote.promise.limits && quote.promise.limits.length > 0
        ? [
            heading('What limits this machine (each changed alone, and what that costs)', size),
            bullets(quote.promise.limits),
          ]
        : []),
      heading('What is not promised', size),
      bullets(quote.promise.not),
      ...(quote.note === '' ? [] : [heading('Note from the workshop', size), { text: quote.note }]),
      {
        text: 'Please back up your data before you bring the machine in. Pulled modules are yours unless a credit for them stands above.',
        color: MUTED,
        margin: [0, size, 0, 0],
      },
      {
        id: LAST,
        columns: [
          { text: 'Accepted: ______________________', margin: [0, 2 * size, 0, 0] },
          { text: 'Date: ______________', alignment: 'right', margin: [0, 2 * size, 0, 0] },
        ],
      },
    ],
  }));
}
