import type { Express, Request } from 'express';
import { benchTagPdf, benchTagSvg, initialsOf } from '../reports/benchTag.ts';
import type { BenchTag } from '../reports/benchTag.ts';
import { quotePdf } from '../reports/quotePdf.ts';
import type { Database } from '../store/openStore.ts';
import { readShop } from '../store/operations/drawer.ts';
import { NotFoundError } from '../store/operations/errors.ts';
import { listQuotes } from '../store/operations/quotes.ts';
import { readJob } from '../store/operations/readJobs.ts';

/** What is printed: a job's bench tag, as a picture and as a page, and its quotes. */
export function mountPrints(app: Express, db: Database): void {
  const tagOf = async ({ params, protocol, headers }: Request): Promise<BenchTag> => {
    const { id, number, customer, batch } = await readJob(db, String(params.id));
    return {
      number: String(number).padStart(4, '0'),
      initials: initialsOf(customer.name),
      ...(batch ? { place: `${batch.position} of ${batch.size}` } : {}),
      // The address the bench uses: a phone in the shop's network opens the same.
      address: `${protocol}://${headers.host ?? '127.0.0.1'}/jobs/${id}`,
    };
  };
  app.get('/api/jobs/:id/tag.svg', async (request, response) => {
    response.type('image/svg+xml').send(benchTagSvg(await tagOf(request)));
  });
  app.get('/api/jobs/:id/tag.pdf', async (request, response) => {
    response.type('application/pdf').send(await benchTagPdf(await tagOf(request)));
  });
  app.get('/api/jobs/:id/quotes/:number.pdf', async ({ params }, response) => {
    const job = await readJob(db, String(params.id));
    const quotes = await listQuotes(db, job.id);
    const quote = quotes.find(({ number }) => String(number) === params.number);
    if (!quote) throw new NotFoundError('This quote');
    const { terms } = await readShop(db);
    const name = `quote-${String(job.number).padStart(4, '0')}-${quote.number}.pdf`;
    response.set('Content-Disposition', `inline; filename="${name}"`);
    response.type('application/pdf').send(await quotePdf(job, quote, terms));
  });
}
