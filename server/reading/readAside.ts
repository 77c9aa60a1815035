import { partFile } from '../parts.ts';
import { Aside } from './aside.ts';
import type { readInventoryFiles } from './readInventoryFiles.ts';

const reader = new Aside<
  Parameters<typeof readInventoryFiles>[0],
  ReturnType<typeof readInventoryFiles>
>(partFile('readWorker'));

/** {@link readInventoryFiles}, while others go on saving. */
export const readAside = (files: Parameters<typeof readInventoryFiles>[0]) => reader.run(files);
