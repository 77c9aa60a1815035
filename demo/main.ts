import { eq } from 'drizzle-orm';
import { runServer } from '../server/runServer.ts';
import { listJobs } from '../server/store/operations/listJobs.ts';
import { suppliers } from '../server/store/schema/index.ts';
import { QUAY, QUAY_KEY, quaySupplier } from './supplier/quay.ts';
import { startSupplier } from './supplier/supplier.ts';
import { DEMO_PASSWORD, PEOPLE, seedDemo } from './seed.ts';

const { TEMBRIX_DATA = '' } = process.env;

await runServer(
  TEMBRIX_DATA === '' ? { type: 'memory' } : { type: 'directory', path: TEMBRIX_DATA },
  async ({ db, url }) => {
    const { total } = await listJobs(db, { state: 'open', search: '', limit: 1, offset: 0 });
    if (total === 0) await seedDemo(db, new Date());
    // Its port is another at every start.
    const supplier = await startSupplier(quaySupplier());
    await db
      .update(suppliers)
      .set({ serviceUrl: supplier.url, serviceKey: QUAY_KEY })
      .where(eq(suppliers.name, QUAY));
    return `\nTolvarra Ferry Repairs, a made-up bench, is open at ${url}\nIt lets you in as ${PEOPLE[0].name}; ${PEOPLE[1].name} and ${PEOPLE[2].name} sign in with “${DEMO_PASSWORD}”.\nStop it with Ctrl C.`;
  },
  true,
);
