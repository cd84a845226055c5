import { X509Certificate } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer, request, type RequestOptions } from 'node:https';
import { isIP } from 'node:net';
import { networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import { WebSocket } from 'ws';
import type { DeviceView, PairingView } from '@mistpeak/contract/access';
import { makeDatabase, ServerUp } from '../testing/server-up.js';
import { MovedClock } from '../testing/moved-clock.js';
import { certify, credentialsFor, readAuthority, type Authority } from './authority.js';
import { ownNames } from './lan.service.js';

const DAY_MS = 86_400_000;

let clock: MovedClock;
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
  clock = new MovedClock();
  server = await ServerUp.on(await makeDatabase(), { lanFolder: folder, clock });
  ca = readFileSync(join(folder, 'authority.pem'), 'utf8');
  const outside = Object.values(networkInterfaces()).flatMap((one) => one ?? []);
  address = outside.find(({ internal, family }) => !internal && family === 'IPv4')?.address ?? '127.0.0.1';
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true, force: true });
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
    expect(await open({})).toBe('refused');
    expect(await open({ ...headers, origin: 'https://example.org' })).toBe('refused');
  });

  it('nobody guesses codes, and guesses lock out neither a right code nor this machine', async () => {
    clock.pass(60_000);
    const answers = [];
    for (let i = 0; i < 7; i++) answers.push((await pair('AAAAAAAAAA')).status);
    expect(answers).toEqual([401, 401, 401, 401, 401, 429, 429]);
    expect((await pair((await makePairing('watcher')).code)).status).toBe(204);
    expect((await server.ask('POST', '/access/login', { password: 'no' })).body).toMatchObject({
      reason: 'wrong-password',
    });
  });

  it('the operator sees what was let in and ends each by a press; its sockets end with it', async () => {
    const { code } = (
      await server.ask<PairingView>('POST', '/access/pairings', {
        role: 'watcher',
        name: 'phone in the cart',
      })
    ).body;
    const headers = { cookie: cookieOf(await pair(code)) };
    const socket = new WebSocket(`wss://${address}:${server.lanPort}/api/v1/live`, { ca, headers });
    await new Promise((resolve) => socket.on('open', resolve));
    const devices = (await server.ask<DeviceView[]>('GET', '/access/devices')).body;
    const phone = devices.find(({ name }) => name === 'phone in the cart');
    expect(phone).toMatchObject({ role: 'watcher', entrance: 'code', address, isThis: false });
    expect((await ask('GET', '/access/devices', { headers })).status).toBe(200);
    expect((await ask('DELETE', `/access/devices/${phone?.id}`, { headers })).status).toBe(403);
    const closed = new Promise((resolve) => socket.on('close', resolve));
    await server.ask('DELETE', `/access/devices/${phone?.id}`);
    expect(await closed).toBe(4401);
    expect((await ask('GET', '/links', { headers })).status).toBe(401);
  });

  it('a login lasts thirty days by a clock that nobody sets, and its sockets as long', async () => {
    const headers = { cookie: cookieOf(await pair((await makePairing('watcher')).code)) };
    const socket = new WebSocket(`wss://${address}:${server.lanPort}/api/v1/live`, { ca, headers });
    await new Promise((resolve) => socket.on('open', resolve));
    const closed = new Promise((resolve) => socket.on('close', resolve));
    clock.setWall(40 * DAY_MS);
    expect((await ask('GET', '/links', { headers })).status).toBe(200);
    clock.setWall(-40 * DAY_MS);
    clock.pass(30 * DAY_MS - 60_000);
    expect((await ask('GET', '/links', { headers })).status).toBe(200);
    clock.pass(60_000);
    expect((await ask('GET', '/links', { headers })).status).toBe(401);
    clock.pass(60_000);
    expect(await closed).toBe(4401);
  });

  it('a code lasts ten minutes', async () => {
    const [first, second] = [(await makePairing('watcher')).code, (await makePairing('watcher')).code];
    clock.pass(10 * 60_000 - 1000);
    expect((await pair(first)).status).toBe(204);
    clock.pass(1000);
    expect((await pair(second)).status).toBe(401);
  });
});

describe('the authority', () => {
  it('is kept, so that a device that trusts it goes on doing so; the certificates are new', async () => {
    const again = await credentialsFor(['10.0.0.7', ...ownNames()], folder, Date.now());
    expect(again.authority).toBe(ca);
    const cert = new X509Certificate(again.cert);
    expect(cert.checkIssued(new X509Certificate(ca))).toBe(true);
    expect(cert.verify(new X509Certificate(ca).publicKey)).toBe(true);
    expect([cert.checkIP('10.0.0.7'), cert.checkHost('localhost'), cert.checkIP('10.0.0.8')]).toEqual([
      '10.0.0.7',
      'localhost',
      undefined,
    ]);
  });

  it('lasts three years, and is made anew before it runs out', async () => {
    const [year, { validFrom, validTo }] = [365 * DAY_MS, new X509Certificate(ca)];
    expect(Math.round((Date.parse(validTo) - Date.parse(validFrom)) / year)).toBe(3);
    expect(
      (await credentialsFor(['10.0.0.7', ...ownNames()], folder, Date.now() + 1.8 * year)).authority,
    ).toBe(ca);
    expect(
      (await credentialsFor(['10.0.0.7', ...ownNames()], folder, Date.now() + 2 * year)).authority,
    ).not.toBe(ca);
  });

  // from: RFC 5280, 4.2.1.10 (name constraints); OpenSSL judges
  it.each([
    ['a name of this machine', ownNames()[0] as string, undefined],
    ['a private address', '192.168.7.9', undefined],
    ['another name', 'example.org', 'ERR_TLS|PERMITTED|permitted subtree'],
    ['a public address', '203.0.113.9', 'PERMITTED|permitted subtree'],
  ])('vouches for %s only where it may', async (_, name, refusal) => {
    const own = mkdtempSync(join(tmpdir(), 'mistpeak-authority-'));
    await credentialsFor(ownNames(), own, Date.now());
    const authority = (await readAuthority(own, [], Date.now())) as Authority;
    const { key, cert, authority: pem } = await certify(authority, [name], Date.now());
    const held = createServer({ key, cert }, (_request, response) => void response.end());
    await new Promise<void>((resolve) => held.listen(0, '127.0.0.1', resolve));
    const outcome = await new Promise<string>((resolve) => {
      const { port } = held.address() as { port: number };
      const servername = isIP(name) ? '' : name;
      const checkServerIdentity = (): undefined => undefined;
      const asked = request({
        host: '127.0.0.1',
        port,
        ca: pem,
        servername,
        checkServerIdentity,
        agent: false,
      });
      asked.on('response', () => resolve('held'));
      asked.on('error', (error: Error & { code?: string }) => resolve(`${error.code} ${error.message}`));
      asked.end();
    });
    held.close();
    rmSync(own, { recursive: true });
    if (refusal) expect(outcome).toMatch(new RegExp(refusal, 'i'));
    else expect(outcome).toBe('held');
  });

  it('is made anew where the machine has got another name, and leaves out what it may not vouch for', async () => {
    const own = mkdtempSync(join(tmpdir(), 'mistpeak-authority-'));
    const first = await credentialsFor(['hut', 'hut.local', '10.0.0.7'], own, Date.now());
    const moved = await credentialsFor(['hut', '10.9.9.9', '203.0.113.9'], own, Date.now());
    expect(moved.authority).toBe(first.authority);
    const cert = new X509Certificate(moved.cert);
    expect([cert.checkIP('10.9.9.9'), cert.checkIP('203.0.113.9')]).toEqual(['10.9.9.9', undefined]);
    expect((await credentialsFor(['cart'], own, Date.now())).authority).not.toBe(first.authority);
    rmSync(own, { recursive: true });
  });
});

describe('closing the house', () => {
  it('ends codes and logins of other devices, forgets the authority, and shuts the way in', async () => {
    const headers = { cookie: cookieOf(await pair((await makePairing('operator')).code)) };
    const { code } = await makePairing('watcher');
    expect((await ask('GET', '/links', { headers })).status).toBe(200);
    expect((await server.ask('POST', '/access/close-house')).status).toBe(204);
    await expect(ask('GET', '/links', { headers })).rejects.toThrow();
    expect(existsSync(join(folder, 'authority.key'))).toBe(false);
    expect((await server.ask('GET', '/access/devices')).body).toEqual([]);
    expect((await server.ask('POST', '/access/pair', { code })).status).toBe(401);
    expect((await server.ask('POST', '/access/pairings', { role: 'watcher' })).body).toMatchObject({
      reason: 'not-on-the-network',
    });
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
