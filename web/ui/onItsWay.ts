let unsent = 0;

/** The browser asks in its own words; what is on its way would be cut off, and nobody told. */
const askFirst = (event: Event) => event.preventDefault();

/** Has the browser ask before the page is left or loaded again, until this is through or refused. */
export async function onItsWay<T>(save: Promise<T>): Promise<T> {
  if (unsent++ === 0) window.addEventListener('beforeunload', askFirst);
  try {
    return await save;
  } finally {
    if (--unsent === 0) window.removeEventListener('beforeunload', askFirst);
  }
}
