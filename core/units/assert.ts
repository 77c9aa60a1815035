/**
 * Fails on a state the types should have ruled out. For bugs only; expected failures are results.
 *
 * @throws Error always, naming the value
 */
export function exhausted(x: never): never {
  throw new Error(`expected every case handled, received ${JSON.stringify(x)}`);
}
