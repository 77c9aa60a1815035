import { runServer } from '../server/runServer.ts';
import { listJobs } from '../server/store/operations/listJobs.ts';
import { seedDemo } from './seed.ts';

const { TEMBRIX_DATA = '' } = process.env;

await runServer(
  TEMBRIX_DATA === '' ? { type: 'memory' } : { type: 'directory', path: TEMBRIX_DATA },
  async ({ db, url }) => {
    const { total } = await listJobs(db, { state: 'open', search: '', limit: 1, offset: 0 });
    if (total === 0) await seedDemo(db, new Date());
    return `\nTolvarra Ferry Repairs, a made-up bench, is open at ${url}\nStop it with Ctrl C.`;
  },
  true,
);
