// Files dropped on one page that another takes up: an address cannot carry them.
let carried: readonly File[] = [];

/** Keeps files for the page that is opened next. */
export function carryFiles(files: readonly File[]): void {
  carried = files;
}

/** The files another page was given, once. */
export function takeCarriedFiles(): readonly File[] {
  const files = carried;
  carried = [];
  return files;
}
