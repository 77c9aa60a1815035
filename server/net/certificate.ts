import { X509Certificate } from 'node:crypto';
import { isIP } from 'node:net';
import { hostname } from 'node:os';

/** What the shop made for itself; PEM. The first is what a tablet is told to trust. */
export interface ShopCertificate {
  readonly authority: string;
  readonly authorityKey: string;
  readonly certificate: string;
  readonly key: string;
}

const DAY_MS = 86_400_000;
const AUTHORITY_DAYS = 3650;
/** No longer than tablets take from an authority they were told to trust. */
const CERTIFICATE_DAYS = 397;
/** Renewed at the next start once less is left. */
const RENEW_DAYS = 30;

const days = (from: Date, count: number) => new Date(from.getTime() + count * DAY_MS);

/**
 * Makes a certificate for an address of this computer, signed by an authority of the shop's own
 * (X.509 v3, elliptic curve P-256).
 *
 * @param known - the authority tablets trust already: it signs the new one too
 */
export async function makeCertificate(
  address: string,
  known?: Pick<ShopCertificate, 'authority' | 'authorityKey'>,
  now = new Date(),
): Promise<ShopCertificate> {
  // Fetched by the few who open their bench to a network.
  const { generate } = await import('selfsigned');
  const from = days(now, -1); // a tablet's clock may be behind
  const common = {
    keyType: 'ec',
    curve: 'P-256',
    algorithm: 'sha256',
    notBeforeDate: from,
  } as const;
  const authority: Pick<ShopCertificate, 'authority' | 'authorityKey'> =
    known ??
    (await generate([{ name: 'commonName', value: 'Tembrix of this shop' }], {
      ...common,
      notAfterDate: days(now, AUTHORITY_DAYS),
      extensions: [
        { name: 'basicConstraints', cA: true, critical: true },
        { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
      ],
    }).then(({ cert, private: key }) => ({ authority: cert, authorityKey: key })));
  const { cert, private: key } = await generate([{ name: 'commonName', value: address }], {
    ...common,
    notAfterDate: days(now, CERTIFICATE_DAYS),
    extensions: [
      { name: 'basicConstraints', cA: false },
      { name: 'keyUsage', digitalSignature: true, keyEncipherment: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [
          isIP(address) ? { type: 7, ip: address } : { type: 2, value: address },
          { type: 2, value: hostname().toLowerCase() },
        ],
      },
    ],
    ca: { cert: authority.authority, key: authority.authorityKey },
  });
  const { authority: own, authorityKey } = authority;
  return { authority: own, authorityKey, certificate: cert, key };
}

/** Until when a certificate is good, and the digits somebody compares before trusting it. */
export function certificateFacts({ authority, certificate }: ShopCertificate): {
  readonly validUntil: string;
  readonly fingerprint: string;
} {
  const { validTo } = new X509Certificate(certificate);
  const { fingerprint256 } = new X509Certificate(authority);
  return { validUntil: new Date(validTo).toISOString(), fingerprint: fingerprint256 };
}

/** Whether a certificate is for an address and good for a while yet. */
export function isGoodFor(
  { certificate }: ShopCertificate,
  address: string,
  now = new Date(),
): boolean {
  const own = new X509Certificate(certificate);
  const isNamed = isIP(address) ? own.checkIP(address) : own.checkHost(address);
  return isNamed !== undefined && new Date(own.validTo) > days(now, RENEW_DAYS);
}
