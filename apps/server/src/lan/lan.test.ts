import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { request, type RequestOptions } from 'node:https';
import { networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import { WebSocket } from 'ws';
import type { PairingView } from '@mistpeak/contract/access';
import { makeDatabase, ServerUp } from '../testing/server-up.js';
import { credentialsFor } from './authority.js';

jest.setTimeout(60_000);

let folder: string;
let server: ServerUp;
let ca: string;
/** This machine's own address on its network: to the server, another device. */
let address: string;

interface Answer {
  readonly status: number;
  readonly text: string;
  readonly cookie: string;
}

/** HTTPS as a phone does it: it trusts the authority and nothing else. OpenSSL checks chain, time and name (RFC 5280, RFC 6125). */
function ask(method: string, path: string, more: RequestOptions = {}, body?: object): Promise<Answer> {
  const json = body === undefined ? undefined : JSON.stringify(body);
  const headers = { ...(json ? { 'content-type': 'application/json' } : {}), ...more.headers };
  return new Promise((resolve, reject) => {
    const asked = request(
      {
        host: address,
        port: server.lanPort,
        method,
        path: `/api/v1${path}`,
        ca,
        agent: false,
        ...more,
        headers,
      },
      (response) => {
        let text = '';
        response.on('data', (piece: Buffer) => (text += piece.toString()));
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 0,
            text,
            cookie: response.headers['set-cookie']?.[0] ?? '',
          }),
        );
      },
    );
    asked.on('error', reject);
    asked.end(json);
  });
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'mistpeak-lan-'));
  server = await ServerUp.on(await makeDatabase(), { lanFolder: folder });
  ca = readFileSync(join(folder, 'authority.pem'), 'utf8');
  const outside = Object.values(networkInterfaces()).flatMap((one) => one ?? []);
  address = outside.find(({ internal, family }) => !internal && family === 'IPv4')?.address ?? '127.0.0.1';
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true });
});

const makePairing = async (role: string): Promise<PairingView> =>
  (await server.ask<PairingView>('POST', '/access/pairings', { role })).body;
const pair = (code: string): Promise<Answer> => ask('POST', '/access/pair', {}, { code });
const cookieOf = ({ cookie }: Answer): string => cookie.split(';')[0] ?? '';

describe('from the network', () => {
  it('HTTPS holds before an authority that only we have', async () => {
    expect((await ask('GET', '/access')).status).toBe(200);
    await expect(ask('GET', '/access', { ca: [] })).rejects.toThrow();
    expect(statSync(join(folder, 'authority.key')).mode & 0o077).toBe(0);
    expect((await ask('GET', '/access/authority')).text).toBe(ca);
  });

  it('nobody is let in without a password or a code', async () => {
    expect(JSON.parse((await ask('GET', '/access')).text)).toMatchObject({ role: null, isLocal: false });
    expect((await ask('GET', '/links')).status).toBe(401);
  });

  it.each([
    ['another host', { host: 'example.org' }],
    ['another origin', { origin: 'https://example.org' }],
    ['our own page by HTTP', { origin: 'http://127.0.0.1' }],
  ])('a page of %s is refused', async (_, headers) => {
    // Whatever a browser would say of the certificate, the server itself refuses.
    const checkServerIdentity = (): undefined => undefined;
    expect((await ask('GET', '/access', { headers, checkServerIdentity })).status).toBe(403);
  });

  it('a code lets one device in, once, by HTTPS only', async () => {
    const { code, fingerprint, addresses } = await makePairing('operator');
    expect(fingerprint).toBe(new X509Certificate(ca).fingerprint256);
    expect(addresses).toContain(`https://${address}:${server.lanPort}`);
    const paired = await pair(`${code.slice(0, 5).toLowerCase()} ${code.slice(5)}`);
    expect(paired).toMatchObject({
      status: 204,
      cookie: expect.stringMatching(/HttpOnly.*Secure.*SameSite=Strict/) as string,
    });
    const headers = { cookie: cookieOf(paired) };
    expect((await ask('GET', '/links', { headers })).status).toBe(200);
    expect(JSON.parse((await ask('GET', '/access', { headers })).text)).toMatchObject({ role: 'operator' });
    expect((await pair(code)).status).toBe(401);
  });

  it('a watcher’s code gives a watcher: it sees and changes nothing, and makes no codes', async () => {
    const headers = { cookie: cookieOf(await pair((await makePairing('watcher')).code)) };
    expect((await ask('GET', '/links', { headers })).status).toBe(200);
    expect((await ask('POST', '/access/pairings', { headers }, { role: 'operator' })).status).toBe(403);
    expect((await ask('POST', '/access/pairings', {}, { role: 'operator' })).status).toBe(401);
  });

  it('the event stream runs over the same HTTPS', async () => {
    const headers = { cookie: cookieOf(await pair((await makePairing('watcher')).code)) };
    const url = `wss://${address}:${server.lanPort}/api/v1/live`;
    const open = (given: object): Promise<string> =>
      new Promise((resolve) => {
        const socket = new WebSocket(url, { ca, headers: given as Record<string, string> });
        socket.on('message', (data: Buffer) => {
          resolve((JSON.parse(data.toString()) as { kind: string }).kind);
          socket.close();
        });
        socket.on('close', (code) => resolve(String(code)));
        socket.on('error', () => resolve('refused'));
      });
    expect(await open(headers)).toBe('snapshot');
    expect(await open({})).toBe('4401');
    expect(await open({ ...headers, origin: 'https://example.org' })).toBe('refused');
  });

  it('nobody guesses codes', async () => {
    const answers = [];
    for (let i = 0; i < 7; i++) answers.push((await pair('AAAAAAAAAA')).status);
    expect(answers).toContain(429);
    expect((await pair((await makePairing('watcher')).code)).status).toBe(429);
  });
});

describe('the authority', () => {
  it('is kept, so that a device that trusts it goes on doing so; the certificates are new', async () => {
    const again = await credentialsFor(['10.0.0.7', 'hut.local'], folder, Date.now());
    expect(again.authority).toBe(ca);
    const cert = new X509Certificate(again.cert);
    expect(cert.checkIssued(new X509Certificate(ca))).toBe(true);
    expect(cert.verify(new X509Certificate(ca).publicKey)).toBe(true);
    expect([cert.checkIP('10.0.0.7'), cert.checkHost('hut.local'), cert.checkIP('10.0.0.8')]).toEqual([
      '10.0.0.7',
      'hut.local',
      undefined,
    ]);
  });

  it('is made anew before it runs out', async () => {
    const nineYears = Date.now() + 9.5 * 365 * 86_400_000;
    expect((await credentialsFor(['10.0.0.7'], folder, nineYears)).authority).not.toBe(ca);
  });
});

it('without the network there is nothing to pair with', async () => {
  const alone = await ServerUp.on(await makeDatabase());
  expect(await alone.ask('POST', '/access/pairings', { role: 'watcher' })).toMatchObject({
    status: 409,
    body: { reason: 'not-on-the-network' },
  });
  await alone.close();
});
