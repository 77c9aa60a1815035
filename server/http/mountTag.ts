import type { Express, Request } from 'express';
import { benchTagPdf, benchTagSvg, initialsOf } from '../reports/benchTag.ts';
import type { BenchTag } from '../reports/benchTag.ts';
import type { Database } from '../store/openStore.ts';
import { readJob } from '../store/operations/readJobs.ts';

/** The bench tag of a job, as a picture and as a page to print. */
export function mountTag(app: Express, db: Database): void {
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
}
