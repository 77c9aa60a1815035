import { X509Certificate } from 'node:crypto';
import { request } from 'node:https';
import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Session } from '#contract/access';
import type { Network } from '#contract/network';
import type { TabletLink } from '#contract/accounts';
import { isGoodFor, makeCertificate } from '../server/net/certificate.ts';
import { listenIn } from '../server/settings.ts';
import { Api } from './support/api.ts';
import { freePort } from './support/freePort.ts';
import { OWNER } from './support/owner.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const DAY_MS = 86_400_000;
const authorityOf = async () => (await api.fetch('/network/authority.pem')).text();

/** A request by TLS, trusting only what a tablet was told to trust. */
function askTls(
  url: string,
  path: string,
  { ca = '', method = 'GET', body = '', headers = {} },
): Promise<{ status: number; cookies: string[]; text: string }> {
  const { hostname, port } = new URL(url);
  return new Promise((settle, reject) => {
    const asked = request(
      {
        ...{ host: hostname, port, path: `/api${path}`, method, ca },
        headers: { 'content-type': 'application/json', ...headers },
        // Whoever rebinds a name does not care what the certificate says.
        ...('host' in headers ? { checkServerIdentity: () => undefined } : {}),
      },
      (response) => {
        let text = '';
        response.setEncoding('utf8').on('data', (chunk: string) => (text += chunk));
        response.on('end', () =>
          settle({
            status: response.statusCode ?? 0,
            cookies: response.headers['set-cookie'] ?? [],
            text,
          }),
        );
      },
    );
    asked.on('error', reject);
    asked.end(body);
  });
}

const isOpen = (port: number) =>
  new Promise<boolean>((settle) => {
    const socket = connect(port, '127.0.0.1', () => {
      socket.destroy();
      settle(true);
    }).on('error', () => settle(false));
  });

describe('the bench for other devices', () => {
  test('is shut until the owner opens it; then by TLS alone, by a certificate of the shop’s own', async () => {
    const before = await api.ok<Network>('GET', '/network');
    expect(before).toMatchObject({ url: null, certificate: null, version: 0 });
    expect((await api.fetch('/network/authority.pem')).status).toBe(404);
    const port = await freePort();
    const terms = { isOpen: true, address: '127.0.0.1', port };
    const open = await api.ok<Network>('PUT', '/network', { terms, version: 0 });
    const url = `https://127.0.0.1:${port}`;
    expect(open).toMatchObject({ url, fault: null });
    const ca = await authorityOf();
    expect(new X509Certificate(ca).fingerprint256).toBe(open.certificate?.fingerprint);

    // Trusted, it lets nobody unknown read; untrusted, no word is exchanged.
    expect((await askTls(url, '/jobs', { ca })).status).toBe(401);
    await expect(askTls(url, '/health', {})).rejects.toThrow(/certificate/);
    const plain = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => undefined);
    expect(plain?.ok ?? false).toBe(false);
    const body = JSON.stringify(OWNER);
    const signedIn = await askTls(url, '/session', { ca, method: 'POST', body });
    expect((JSON.parse(signedIn.text) as Session).state).toBe('signed in');
    for (const cookie of signedIn.cookies) expect(cookie).toContain('Secure');

    // Its own pages write, other sites’ do not; a name it does not have is nobody’s.
    const cookie = signedIn.cookies.map((one) => one.split(';')[0]).join('; ');
    const name = { ca, method: 'PUT', body: JSON.stringify({ name: 'Nobody' }) };
    const from = (headers: object) =>
      askTls(url, '/makers/7-01', { ...name, headers: { cookie, ...headers } });
    expect((await from({ origin: url })).status).toBe(200);
    expect((await from({ origin: 'https://stranger.example' })).status).toBe(403);
    expect((await from({ host: 'rebound.example' })).status).toBe(421);

    // Codes for tablets lead there; so do tags.
    const job = await api.jobWithFound();
    const { address } = await api.ok<TabletLink>('POST', `/jobs/${job.id}/tablet`, {});
    expect(address).toMatch(new RegExp(`^${url}/jobs/${job.id}/fit#tablet=`));

    const shut = await api.ok<Network>('PUT', '/network', {
      terms: { ...terms, isOpen: false },
      version: open.version,
    });
    expect(shut.url).toBeNull();
    await expect.poll(() => isOpen(port), { timeout: 20_000 }).toBe(false);
    expect(await api.ok<TabletLink>('POST', `/jobs/${job.id}/tablet`, {})).toMatchObject({
      address: null,
    });
    // Told once to trust it, a tablet goes on trusting.
    const again = await api.ok<Network>('PUT', '/network', { terms, version: shut.version });
    expect(again.certificate?.fingerprint).toBe(open.certificate?.fingerprint);
    await api.ok('PUT', '/network', { terms: { ...terms, isOpen: false }, version: again.version });
  });

  test('says why it stays shut: a taken port, an address of another machine, a change meanwhile', async () => {
    const { version } = await api.ok<Network>('GET', '/network');
    const taken = {
      isOpen: true,
      address: '127.0.0.1',
      port: Number(new URL(api.server.url).port),
    };
    const {
      url,
      fault,
      version: next,
    } = await api.ok<Network>('PUT', '/network', { terms: taken, version });
    expect([url, fault]).toEqual([null, expect.stringContaining('is taken')]);
    const away = { ...taken, address: '192.0.2.77' };
    expect((await api.problem('PUT', '/network', { terms: away, version: next })).mend).toContain(
      'listed',
    );
    expect((await api.problem('PUT', '/network', { terms: taken, version })).status).toBe(409);
  });

  test('stays on this machine, whatever is set at the start, until somebody owns it', async () => {
    const port = await freePort();
    const listen = { isOpen: true, address: '127.0.0.1', port };
    const unowned = await Api.start(undefined, { listen }, false);
    expect(await isOpen(port)).toBe(false);
    await unowned.server.stop();
    const owned = await Api.start(undefined, { listen });
    const { fault, isFixed } = await owned.ok<Network>('GET', '/network');
    expect([fault, isFixed]).toEqual([expect.stringContaining('Nobody owns'), true]);
    expect((await owned.problem('PUT', '/network', { terms: listen, version: 0 })).mend).toContain(
      'TEMBRIX_LISTEN' in process.env ? '' : 'Change it there',
    );
    await owned.server.stop();
  });
});

describe('a certificate', () => {
  test('is for its address and this host, no longer than tablets take, and renewed by the same authority', async () => {
    const now = new Date('2026-05-04T12:00:00Z');
    const one = await makeCertificate('192.0.2.20', undefined, now);
    const own = new X509Certificate(one.certificate);
    expect(own.verify(new X509Certificate(one.authority).publicKey)).toBe(true);
    expect([own.ca, new X509Certificate(one.authority).ca]).toEqual([false, true]);
    expect((Date.parse(own.validTo) - Date.parse(own.validFrom)) / DAY_MS).toBeLessThanOrEqual(398);
    expect(isGoodFor(one, '192.0.2.20', now)).toBe(true);
    expect(isGoodFor(one, '192.0.2.21', now)).toBe(false);
    const later = new Date(now.getTime() + 380 * DAY_MS);
    expect(isGoodFor(one, '192.0.2.20', later)).toBe(false);
    const next = await makeCertificate('192.0.2.20', one, later);
    expect(next.authority).toBe(one.authority);
    expect(isGoodFor(next, '192.0.2.20', later)).toBe(true);
    expect(
      new X509Certificate(next.certificate).verify(new X509Certificate(one.authority).publicKey),
    ).toBe(true);
  });
});

test.each([
  ['192.168.1.20', { address: '192.168.1.20', port: 4871 }],
  ['192.168.1.20:5000', { address: '192.168.1.20', port: 5000 }],
  ['[fd00::20]:5000', { address: 'fd00::20', port: 5000 }],
  ['[fd00::20]', { address: 'fd00::20', port: 4871 }],
])('TEMBRIX_LISTEN=%s is read', (text, terms) => {
  expect(listenIn(text)).toEqual({ isOpen: true, ...terms });
});

test.each(['bench.lan', '0.0.0.0.0', '192.168.1.20:0', '192.168.1.20:99999', 'fd00::20', 'x y'])(
  'TEMBRIX_LISTEN=%s is refused with what would do',
  (text) => {
    expect(() => listenIn(text)).toThrow(/no address to listen at/);
  },
);
test('no TEMBRIX_LISTEN, no line', () => {
  expect(listenIn(' ')).toBeUndefined();
});
