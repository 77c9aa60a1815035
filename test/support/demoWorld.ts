import { existsSync, openAsBlob, rmSync, writeFileSync } from 'node:fs';
import { rename, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { drizzle } from 'drizzle-orm/pglite';
import { seedDemo } from '../../demo/seed.ts';
import { emptyDatabase } from '../../server/store/emptyDatabase.ts';
import { Engine } from '../../server/store/engine.ts';
import { engineOptions, storeOptions } from '../../server/store/options.ts';

/** In the directory all processes of a run share, and which is gone with it. */
const FILE = join(tmpdir(), 'demo-world.tar');
const MAKING = `${FILE}.lock`;

async function make(): Promise<void> {
  // Another one may have made it since it was looked for.
  if (existsSync(FILE)) return;
  const engine = await Engine.open({ ...engineOptions, loadDataDir: await emptyDatabase() });
  try {
    await seedDemo(drizzle(engine, storeOptions), new Date());
    const image = await engine.dumpDataDir('none');
    await writeFile(`${FILE}.part`, Buffer.from(await image.arrayBuffer()));
    await rename(`${FILE}.part`, FILE);
  } finally {
    await engine.close();
  }
}

/** Whether it is this process that makes what none has made yet. */
function isOurs(): boolean {
  try {
    writeFileSync(MAKING, '', { flag: 'wx' });
    return true;
  } catch {
    return false;
  }
}

/**
 * A database with the demo world in it, to start an engine from. Its quotes are simulated, which takes ten
 * seconds: whoever asks first makes it, others wait.
 *
 * @throws what {@link seedDemo} throws; the next one who asks tries anew
 */
export async function demoWorld(): Promise<Blob> {
  while (!existsSync(FILE))
    if (isOurs()) await make().finally(() => rmSync(MAKING));
    else await wait(100);
  return openAsBlob(FILE);
}
