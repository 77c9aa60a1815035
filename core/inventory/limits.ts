/** Largest file read. Tables and images are a few kB; whatever is larger is something else. */
export const INVENTORY_FILE_LIMIT = 4 * 2 ** 20;
