import { networkInterfaces } from 'node:os';
import type { Door, DoorTerms } from '#contract/measuring';

/** Where something at an address and port is reached. */
export const urlOf = (
  protocol: 'http' | 'https',
  { address, port }: Pick<DoorTerms, 'address' | 'port'>,
): string => `${protocol}://${address.includes(':') ? `[${address}]` : address}:${port}`;

/** Addresses others can reach first; loopback last, for trying it out. */
export function ownAddresses(): Door['addresses'] {
  const all = Object.entries(networkInterfaces()).flatMap(([name, own = []]) =>
    own.map(({ address, internal, scopeid }) => ({ address, name, internal, scopeid })),
  );
  return all
    .filter(({ scopeid }) => !scopeid) // link-local IPv6 needs a zone no link can carry
    .sort((a, b) => Number(a.internal) - Number(b.internal))
    .map(({ address, name, internal }) => ({
      address,
      name: internal ? `${name}, this computer only` : name,
    }));
}
