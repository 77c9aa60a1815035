/** Largest file read. Tables and images are a few kB; whatever is larger is something else. */
export const INVENTORY_FILE_LIMIT = 4 * 2 ** 20;

/** Largest collected file that is unpacked: table, lists and images of a large board have some 60 kB. */
export const COLLECTED_LIMIT = 2 ** 20;
