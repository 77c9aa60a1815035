import { afterEach } from 'vitest';

/** Gives what moves this process to another part of the world; after each test it is back where it was. */
export function inAnyZone(): (zone: string) => void {
  const home = process.env.TZ;
  afterEach(() => {
    if (home === undefined) delete process.env.TZ;
    else process.env.TZ = home;
  });
  return (zone) => void (process.env.TZ = zone);
}
