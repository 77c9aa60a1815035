import { resolve } from 'node:path';
import { build } from 'vite';

/** A room of the core as it is shipped: built, not compiled on the fly, which costs it a third. */
export async function builtRoom<Room>(name: string): Promise<Room> {
  const outDir = resolve(`dist/bench/${name}`);
  await build({
    configFile: false,
    logLevel: 'error',
    build: { ssr: `core/${name}/index.ts`, outDir, emptyOutDir: true },
  });
  return (await import(`${outDir}/index.js`)) as Room;
}
