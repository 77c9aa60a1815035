import { readInventoryFiles } from './readInventoryFiles.ts';

/** What a reader's own thread does: one request's files at a time. */
export default readInventoryFiles;
