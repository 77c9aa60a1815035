/** Whoever owns the benches of tests. */
export const OWNER = { name: 'Ottoline V.', password: 'kelp lantern tide 9' };

/** Cookies an answer sets, as the next request carries them. */
export const cookiesOf = (response: Response): string =>
  response.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');

/** Signs in at a bench; its cookies, or nothing where one is not let in. */
export async function cookiesFor(
  url: string,
  who: { readonly name: string; readonly password: string },
  path = '/session',
): Promise<string | undefined> {
  const response = await fetch(`${url}/api${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(who),
  });
  return response.ok ? cookiesOf(response) : undefined;
}

/** The cookies of a bench's owner; the first time on a database they are made. */
export async function ownerOf(url: string): Promise<string> {
  const cookies =
    (await cookiesFor(url, OWNER, '/session/set-up')) ?? (await cookiesFor(url, OWNER));
  if (cookies === undefined) throw new Error('the owner was not let in');
  return cookies;
}
