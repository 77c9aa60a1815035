import type { Express, Request } from 'express';
import { z } from 'zod';
import { initialsOf, tagPdf, tagSvg } from '../reports/tag.ts';
import { reportPdf } from '../reports/reportPdf.ts';
import { jobReport } from '#contract/jobReport';
import { PRINTS, routerPath } from '#contract/prints';
import { explainChange, gb } from '#core/explaining';
import { moduleSummary } from '#core/memory';
import type { Tag } from '../reports/tag.ts';
import { labelsPdf } from '../reports/labels.ts';
import type { Label } from '../reports/labels.ts';
import { InputError } from './problems.ts';
import { coverSheetPdf, coverSheetSvg } from '../reports/coverSheet.ts';
import { quotePdf } from '../reports/quotePdf.ts';
import { writeArchive } from '../backup/archive.ts';
import type { BackupKeeper } from '../backup/keeper.ts';
import { takeIn } from '../backup/takeIn.ts';
import { readJobBundle } from '../backup/jobBundle.ts';
import { backUp } from '../backup/backup.ts';
import { backupName } from '../backup/names.ts';
import type { Database } from '../store/openStore.ts';
import { csvLine } from '../reports/csv.ts';
import { everyChange } from '../store/operations/audit.ts';
import { readBench } from '../store/operations/bench.ts';
import { customerData } from '../store/operations/customerData.ts';
import { readPhoto } from '../store/operations/covers.ts';
import { listDrawer, readPiece, readShop } from '../store/operations/drawer.ts';
import { NotFoundError } from '../store/operations/errors.ts';
import { readEvidencePhoto } from '../store/operations/evidence.ts';
import { readLogo } from '../store/operations/logo.ts';
import { readMachine } from '../store/operations/library.ts';
import { listResults } from '../store/operations/measuring.ts';
import { listQuotes } from '../store/operations/quotes.ts';
import { readJob } from '../store/operations/readJobs.ts';

/** Modules whose labels are printed at once. */
const LABELS_AT_ONCE = 500;
const labelsQuery = z.object({
  ids: z
    .string('Say which modules: ?ids=…,…')
    .transform((text) => text.split(',').filter((id) => id !== ''))
    .pipe(z.array(z.string().max(40)).min(1, 'Say which modules: ?ids=…,…').max(LABELS_AT_ONCE)),
  used: z.coerce.number().int().min(0).max(1000).default(0),
});

function labelsAsked(query: unknown) {
  const asked = labelsQuery.safeParse(query);
  if (!asked.success) throw new InputError(asked.error.issues);
  return asked.data;
}

/** What is printed: tags of jobs and of drawer modules, quotes, hand-over reports, laying-out sheets of covers, photos of covers and stickers; and the backup of all. */
export function mountPrints(
  app: Express,
  db: Database,
  addresses: readonly URL[],
  backups: BackupKeeper,
): void {
  // As the owner set it, never as a request names it: a tag must not lead to a stranger.
  const placeOf = ({ socket }: Request, path: string) =>
    `${addresses[0]?.origin ?? `http://127.0.0.1:${socket.localPort}`}${path}`;
  const jobTag = async (request: Request): Promise<Tag> => {
    const { id, number, customer, batch } = await readJob(db, String(request.params.id));
    return {
      ...{ heading: 'Job', main: String(number).padStart(4, '0') },
      second: initialsOf(customer.name),
      ...(batch ? { third: `${batch.position} of ${batch.size}` } : {}),
      address: placeOf(request, `/jobs/${id}`),
    };
  };
  const pieceTag = async (request: Request): Promise<Tag> => {
    const piece = await readPiece(db, String(request.params.id));
    return {
      ...{ heading: 'Drawer', main: gb(piece.module.capacity) },
      second: moduleSummary(piece.module),
      ...(piece.origin === '' ? {} : { third: piece.origin }),
      address: placeOf(request, `/drawer/${piece.id}`),
    };
  };
  for (const [svg, pdf, tagOf] of [
    [PRINTS.jobTagSvg, PRINTS.jobTagPdf, jobTag],
    [PRINTS.drawerTagSvg, PRINTS.drawerTagPdf, pieceTag],
  ] as const) {
    app.get(routerPath(svg.path), async (request, response) => {
      response.type('image/svg+xml').send(tagSvg(await tagOf(request)));
    });
    app.get(routerPath(pdf.path), async (request, response) => {
      response.type('application/pdf').send(await tagPdf(await tagOf(request)));
    });
  }
  app.get(routerPath(PRINTS.shopLogo.path), async (_request, response) => {
    const logo = await readLogo(db);
    if (!logo) throw new NotFoundError('A sign of the shop');
    response.type(logo.type).send(Buffer.from(logo.content));
  });
  app.get(routerPath(PRINTS.stockLabels.path), async (request, response) => {
    const { ids, used } = labelsAsked(request.query);
    const byId = new Map((await listDrawer(db)).map((piece) => [piece.id, piece]));
    const labels = ids.map((id): Label => {
      const piece = byId.get(id);
      if (!piece) throw new NotFoundError('One of these modules');
      return {
        ...{ main: gb(piece.module.capacity), id, address: placeOf(request, `/drawer/${id}`) },
        lines: [moduleSummary(piece.module), piece.place || 'drawer', piece.origin],
      };
    });
    const { labelSheet } = (await readShop(db)).terms;
    response.set('Content-Disposition', 'inline; filename="labels.pdf"');
    response.type('application/pdf').send(await labelsPdf(labelSheet, labels, used));
  });
  const mapOf = async ({ params }: Request) => {
    const { machine, coverMap } = await readMachine(db, String(params.id));
    if (!coverMap) throw new NotFoundError('A map of this cover');
    return { name: machine.name, map: coverMap };
  };
  app.get(routerPath(PRINTS.coverSvg.path), async (request, response) => {
    response.type('image/svg+xml').send(coverSheetSvg((await mapOf(request)).map));
  });
  app.get(routerPath(PRINTS.coverPdf.path), async (request, response) => {
    const { name, map } = await mapOf(request);
    response.type('application/pdf').send(await coverSheetPdf(name, map));
  });
  app.get(routerPath(PRINTS.machinePhoto.path), async ({ params }, response) => {
    const { type, content } = await readPhoto(db, String(params.id));
    response.type(type).send(Buffer.from(content));
  });
  app.get(routerPath(PRINTS.evidencePhoto.path), async ({ params }, response) => {
    const { type, content } = await readEvidencePhoto(
      db,
      String(params.id),
      String(params.evidenceId),
    );
    // Evidence never changes.
    response.set('Cache-Control', 'private, max-age=31536000, immutable');
    response.type(type).send(Buffer.from(content));
  });
  app.get(routerPath(PRINTS.backup.path), async (_request, response) => {
    await backUp(db, () => {
      const name = backupName(new Date());
      response.set('Content-Disposition', `attachment; filename="${name}"`);
      return response.type('application/gzip');
    });
  });
  app.get(routerPath(PRINTS.customerData.path), async ({ params }, response) => {
    const data = await customerData(db, String(params.id));
    response.attachment('customer-data.json').type('application/json');
    response.send(JSON.stringify(data, null, 1));
  });
  app.get(routerPath(PRINTS.changesCsv.path), async (_request, response) => {
    response.attachment('changes.csv').type('text/csv');
    const { currency } = (await readShop(db)).terms;
    response.write(csvLine(['at', 'who', 'job', 'subject', 'changed', 'from', 'to']));
    for await (const entry of everyChange(db)) {
      const { title, from, to } = explainChange(entry, currency);
      response.write(
        csvLine([
          entry.at,
          entry.who ?? '',
          entry.job?.number ?? '',
          entry.subject,
          title,
          from,
          to,
        ]),
      );
    }
    response.end();
  });
  app.post(routerPath(PRINTS.backupGiven.path), async (request, response) => {
    response.status(201).json(await takeIn(backups, request));
  });
  app.get(routerPath(PRINTS.bundle.path), async ({ params }, response) => {
    const content = await readJobBundle(db, String(params.id));
    const { number } = await readJob(db, String(params.id));
    const name = `job-${String(number).padStart(4, '0')}.tembrix-job.tar.gz`;
    response.set('Content-Disposition', `attachment; filename="${name}"`);
    await writeArchive(content, response.type('application/gzip'), { format: 'tembrix-job' });
  });
  app.get(routerPath(PRINTS.report.path), async ({ params }, response) => {
    const job = await readJob(db, String(params.id));
    const [{ terms }, { pulledTo }, results] = await Promise.all([
      readShop(db),
      readBench(db, job.id),
      listResults(db, job.id),
    ]);
    const report = jobReport(job, { terms, pulledTo, results });
    response.set('Content-Disposition', `inline; filename="report-${report.number}.pdf"`);
    response
      .type('application/pdf')
      .send(await reportPdf(job, report, terms, (await readLogo(db))?.address));
  });
  app.get(routerPath(PRINTS.quotePdf.path), async ({ params }, response) => {
    const job = await readJob(db, String(params.id));
    const quotes = await listQuotes(db, job.id);
    const quote = quotes.find(({ number }) => String(number) === params.number);
    if (!quote) throw new NotFoundError('This quote');
    const { terms } = await readShop(db);
    const name = `quote-${String(job.number).padStart(4, '0')}-${quote.number}.pdf`;
    response.set('Content-Disposition', `inline; filename="${name}"`);
    response
      .type('application/pdf')
      .send(await quotePdf(job, quote, terms, (await readLogo(db))?.address));
  });
}
