import type { Content, TableCell } from 'pdfmake/interfaces.js';
import type { Quote } from '#contract/quotes';
import type { Job } from '#contract/records';
import { money } from '#core/explaining';
import type { ShopTerms } from '#core/quoting';
import { makePdf } from './makePdf.ts';
import { INK, MUTED, TEAL, day, quietTable } from './palette.ts';

/** A quote as the customer gets it: what is done, what it costs, what is promised and what is not. */
export async function quotePdf(job: Job, quote: Quote, terms: ShopTerms): Promise<Buffer> {
  const amount = (value: number) => money(value, quote.currency);
  const title = `Quote ${String(job.number).padStart(4, '0')}-${quote.number}`;
  const right = (text: string): TableCell => ({ text, alignment: 'right' });
  const lines: TableCell[][] = quote.lines.map(({ text, quantity, each }) => [
    { text },
    right(String(quantity)),
    right(amount(each)),
    right(amount(quantity * each)),
  ]);
  const heading = (text: string): Content => ({ text, bold: true, margin: [0, 11, 0, 3] });
  const bullets = (texts: readonly string[]): Content => ({ ul: [...texts], markerColor: TEAL });
  const lead =
    quote.leadDays === null
      ? 'The supplier has not said how long the parts take; we ask before ordering.'
      : quote.leadDays === 0
        ? 'All parts in stock.'
        : `Parts take about ${quote.leadDays} ${quote.leadDays === 1 ? 'day' : 'days'} to arrive.`;
  return makePdf({
    info: { title },
    pageSize: 'A4',
    pageMargins: [54, 40, 54, 36],
    defaultStyle: { font: 'Tag', fontSize: 10, lineHeight: 1.15, color: INK },
    content: [
      {
        columns: [
          { text: terms.name, bold: true, fontSize: 15, color: TEAL },
          { text: terms.address, alignment: 'right', color: MUTED },
        ],
      },
      { text: title, bold: true, fontSize: 20, margin: [0, 16, 0, 2] },
      {
        text: `For ${job.customer.name} · issued ${day(quote.issuedAt)} · valid until ${day(quote.validUntil)}`,
        color: MUTED,
      },
      { text: `${job.machine.machine.name}: ${job.complaint}`, margin: [0, 8, 0, 12] },
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
          paddingTop: () => 4,
          paddingBottom: () => 4,
        },
      },
      { text: lead, margin: [0, 8, 0, 0] },
      heading('What you have, and what you get'),
      { text: [{ text: 'Now: ', bold: true }, quote.promise.now] },
      { text: [{ text: 'Then: ', bold: true }, quote.promise.then] },
      ...(quote.promise.room === ''
        ? []
        : [{ text: quote.promise.room, margin: [0, 4, 0, 0] } as Content]),
      ...(quote.promise.gains.length > 0
        ? [heading('What that does to your work (promised range)'), bullets(quote.promise.gains)]
        : []),
      heading('What is not promised'),
      bullets(quote.promise.not),
      ...(quote.note === '' ? [] : [heading('Note from the workshop'), { text: quote.note }]),
      {
        text: 'Please back up your data before you bring the machine in. Pulled modules are yours unless a credit for them stands above.',
        color: MUTED,
        margin: [0, 14, 0, 0],
      },
      {
        columns: [
          { text: 'Accepted: ______________________', margin: [0, 22, 0, 0] },
          { text: 'Date: ______________', alignment: 'right', margin: [0, 22, 0, 0] },
        ],
      },
    ],
  });
}
