import type { Content, TableCell } from 'pdfmake/interfaces.js';
import type { JobReport } from '#contract/jobReport';
import type { Job } from '#contract/records';
import type { ShopTerms } from '#core/quoting';
import { makePdf } from './makePdf.ts';
import { INK, LINE, MUTED, TEAL, day, quietTable } from './palette.ts';

const heading = (text: string): Content => ({ text, bold: true, margin: [0, 9, 0, 2] });
const bullets = (texts: readonly string[]): Content => ({ ul: [...texts], markerColor: TEAL });
const head = (texts: readonly string[]): TableCell[] =>
  texts.map((text) => ({ text, bold: true, color: MUTED }));

function table(
  heads: readonly string[],
  rows: readonly (readonly TableCell[])[],
  widths: readonly (string | number)[],
): Content {
  return {
    table: {
      ...{ headerRows: 1, widths: [...widths] },
      body: [head(heads), ...rows.map((row) => [...row])],
    },
    layout: quietTable,
  };
}

/**
 * The hand-over report: one page for the customer in plain words, and the technician's appendix
 * with slots, timings, every run and its conditions.
 */
export async function reportPdf(
  job: Job,
  report: JobReport,
  terms: Pick<ShopTerms, 'name' | 'address'>,
): Promise<Buffer> {
  const { story, rows, proven, watch, cautions, parts, appendix } = report;
  const title = `Memory report ${report.number}`;
  const dated = report.closedAt
    ? day(report.closedAt)
    : `draft of ${day(new Date().toISOString())}`;
  const shopHead: Content = {
    columns: [
      { text: terms.name, bold: true, fontSize: 15, color: TEAL },
      { text: terms.address, alignment: 'right', color: MUTED },
    ],
  };
  const forWhom = `For ${job.customer.name} · ${job.machine.machine.name} · ${dated}`;
  return makePdf({
    info: { title },
    pageSize: 'A4',
    pageMargins: [54, 40, 54, 40],
    defaultStyle: { font: 'Tag', fontSize: 10, lineHeight: 1.15, color: INK },
    footer: (page, pages) => ({
      text: `${title} · page ${page} of ${pages}`,
      ...{ alignment: 'center', color: MUTED, fontSize: 8, margin: [0, 10, 0, 0] },
    }),
    content: [
      shopHead,
      { text: title, bold: true, fontSize: 20, margin: [0, 14, 0, 2] },
      { text: forWhom, color: MUTED },
      {
        text: report.headline,
        ...{ bold: true, fontSize: 13, color: TEAL, margin: [0, 8, 0, 0] },
      },
      heading('What you told us'),
      { text: job.complaint },
      heading('What was done, and what it gives you'),
      bullets([story.was, story.done, story.gives].filter((text) => text !== '')),
      ...(rows.length > 0
        ? [
            heading('What was measured'),
            table(
              ['Test', 'Before', 'Now', 'Change, and how sure it is'],
              rows.map(({ test, name, before, after, change, sure }) => [
                { text: [test, { text: `\n${name}`, color: MUTED, fontSize: 8.5 }] },
                { text: before },
                { text: after },
                {
                  text: [
                    { text: change, bold: true },
                    ...(sure === '' ? [] : [{ text: `\n${sure}`, color: MUTED, fontSize: 8.5 }]),
                  ],
                },
              ]),
              ['*', 74, 74, 170],
            ),
          ]
        : []),
      heading('What was proven'),
      bullets(
        rows.length > 0 ? proven : ['Nothing was measured, so no gain is claimed.', ...proven],
      ),
      heading('What to watch'),
      bullets(watch),
      heading('Please take care'),
      bullets(cautions),
      ...(parts.length > 0 ? [heading('Parts'), bullets(parts)] : []),
      {
        text: 'Measured on this machine; other programs may gain more or less.',
        ...{ color: MUTED, margin: [0, 8, 0, 0] },
      },
      { text: 'For the technician', bold: true, fontSize: 15, pageBreak: 'before' },
      { text: forWhom, color: MUTED, margin: [0, 0, 0, 4] },
      heading('Slots'),
      table(
        ['Slot', 'Found', 'Fitted'],
        appendix.slots.map((row) => [...row]),
        [70, '*', '*'],
      ),
      heading('Running'),
      ...(appendix.running.length > 0
        ? [
            table(
              ['Side', 'Rate, timings, width, peak'],
              appendix.running.map((row) => [...row]),
              [70, '*'],
            ),
          ]
        : [{ text: 'Not on record.', color: MUTED }]),
      heading('Every run, under its conditions'),
      ...(appendix.runs.length > 0
        ? [
            table(
              ['Test', 'Side', 'Runs', 'Conditions'],
              appendix.runs.map((row) => [...row]),
              [104, 32, '*', 172],
            ),
          ]
        : [{ text: 'None.', color: MUTED }]),
      ...(appendix.pages.length > 0
        ? [heading('Results of the measuring page'), bullets(appendix.pages)]
        : []),
      heading('Memory tests'),
      ...(appendix.memoryTests.length > 0
        ? [bullets(appendix.memoryTests)]
        : [{ text: 'None on record.', color: MUTED }]),
      {
        canvas: [{ type: 'line', x1: 0, y1: 6, x2: 487, y2: 6, lineWidth: 0.6, lineColor: LINE }],
      },
      {
        text: 'Intervals: bootstrap of the ratio of means, widened for few runs; 19 of 20 such intervals hold the true change.',
        ...{ color: MUTED, fontSize: 8.5, margin: [0, 4, 0, 0] },
      },
    ],
  });
}
