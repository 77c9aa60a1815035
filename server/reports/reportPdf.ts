import type { Content, TableCell } from 'pdfmake/interfaces.js';
import type { JobReport, ReportSection } from '#contract/jobReport';
import type { Job } from '#contract/records';
import { longDay } from '#core/explaining';
import type { ShopTerms } from '#core/quoting';
import { exhausted } from '#core/units';
import { barPicture, lanePicture } from './pictures.ts';
import { LAST, makeOnePage } from './makePdf.ts';
import { INK, LINE, MUTED, TEAL, quietTable, shopHead } from './palette.ts';

const heading = (text: string): Content => ({ text, bold: true, margin: [0, 7, 0, 2] });

/** Width between the margins of the narrower paper, points. */
const WIDTH = 487;

function content(section: ReportSection): Content {
  switch (section.type) {
    case 'text':
      return { text: section.text };
    case 'list':
      return { ul: [...section.texts], markerColor: TEAL };
    case 'lanes':
      return lanePicture(section.point);
    case 'bars':
      return barPicture(section.rows);
    case 'table': {
      const { heads, rows, shares } = section;
      const head = heads.map((text): TableCell => ({ text, bold: true, color: MUTED }));
      return {
        table: {
          ...{ headerRows: 1, widths: shares.map((share) => share * WIDTH - 8) },
          body: [head, ...rows.map((row) => [...row])],
        },
        ...{ layout: quietTable, fontSize: 9 },
      };
    }
    default:
      return exhausted(section);
  }
}

const told = (section: ReportSection): Content[] => [heading(section.title), content(section)];

/**
 * The hand-over report: one page for the customer in pictures and plain words, and the technician's
 * appendix with slots, timings, statistics, every run and its conditions.
 */
export async function reportPdf(
  job: Job,
  report: JobReport,
  terms: Pick<ShopTerms, 'name' | 'address' | 'paper'>,
  logo?: string,
): Promise<Buffer> {
  const title = `Memory report ${report.number}`;
  const dated = report.closedAt
    ? longDay(report.closedAt)
    : `draft of ${longDay(new Date().toISOString())}`;
  const forWhom = `For ${job.customer.name} · ${job.machine.machine.name} · ${dated}`;
  return makeOnePage((size) => ({
    info: { title },
    pageSize: terms.paper === 'Letter' ? 'LETTER' : 'A4',
    pageMargins: [54, 36, 54, 36],
    defaultStyle: { font: 'Tag', fontSize: size, lineHeight: 1.12, color: INK },
    footer: (page, pages) => ({
      text: `${title} · page ${page} of ${pages}`,
      ...{ alignment: 'center', color: MUTED, fontSize: 8, margin: [0, 10, 0, 0] },
    }),
    content: [
      shopHead(terms, logo),
      { text: title, bold: true, fontSize: 18, margin: [0, 10, 0, 2] },
      { text: forWhom, color: MUTED },
      {
        text: report.headline,
        ...{ bold: true, fontSize: 13, color: TEAL, margin: [0, 6, 0, 0] },
      },
      ...report.page.flatMap(told),
      { text: report.foot, id: LAST, ...{ color: MUTED, margin: [0, 8, 0, 0] } },
      { text: 'For the technician', bold: true, fontSize: 15, pageBreak: 'before' },
      { text: forWhom, color: MUTED, margin: [0, 0, 0, 4] },
      ...report.appendix.flatMap(told),
      {
        canvas: [{ type: 'line', x1: 0, y1: 6, x2: WIDTH, y2: 6, lineWidth: 0.6, lineColor: LINE }],
      },
      { text: report.appendixFoot, ...{ color: MUTED, fontSize: 8.5, margin: [0, 4, 0, 0] } },
    ],
  }));
}
