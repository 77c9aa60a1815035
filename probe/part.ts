/** An element the page has by its id. */
export const part = (id: string): HTMLElement => {
  const found = document.getElementById(id);
  if (!found) throw new Error(`expected #${id} in the page`);
  return found;
};
