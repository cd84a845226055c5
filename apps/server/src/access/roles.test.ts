import type { IncomingMessage } from 'node:http';
import { WebSocket } from 'ws';
import { MovedClock } from '../testing/moved-clock.js';
import { KissPeer } from '../testing/kiss-peer.js';
import { BEACON, linkTo, makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';
import { isLoopback } from './own-page.js';

const WATCHER = { password: 'seabird count' };

let clock: MovedClock;
let server: ServerUp;
let peer: KissPeer;
let linkId: string;
beforeAll(async () => {
  clock = new MovedClock();
  server = await ServerUp.on(await makeDatabase(), { clock });
  peer = await KissPeer.listen();
  await server.ask('PUT', '/operator', OPERATOR);
  await server.ask('PUT', '/beacon', BEACON);
  linkId = (await server.ask<{ id: string }>('POST', '/links', linkTo(peer.port))).body.id;
  await server.ask('POST', `/links/${linkId}/open`);
  await server.ask('PUT', `/links/${linkId}/lock`, { call: `${TEST_CALL}-7` });
  await server.ask('PUT', '/access/passwords/watcher', WATCHER);
});
afterAll(async () => {
  await server.close();
  await peer.close();
});

interface Told {
  readonly status: number;
  readonly reason: string | undefined;
  readonly cookie: string;
}

async function as(cookie: string, method: string, path: string, body?: unknown): Promise<Told> {
  const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1${path}`, {
    method,
    headers: { cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await answer.text();
  const { reason } = (text.startsWith('{') ? JSON.parse(text) : {}) as { reason?: string };
  return { status: answer.status, reason, cookie: answer.headers.getSetCookie()[0] ?? '' };
}

const loggedIn = async (who: { password: string }): Promise<string> =>
  (await as('', 'POST', '/access/login', who)).cookie.split(';')[0] as string;

const roleOf = async (cookie: string): Promise<unknown> => {
  const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1/access`, { headers: { cookie } });
  return ((await answer.json()) as { role: unknown }).role;
};

describe('a login', () => {
  it('is not needed by the operator on this machine', async () => {
    expect(await server.ask('GET', '/access')).toMatchObject({
      body: {
        role: 'operator',
        isLocal: true,
        isLoggedIn: false,
        passwords: { operator: false, watcher: true },
      },
    });
  });

  it('gives a cookie that no page reads and no other site sends', async () => {
    const { cookie } = await as('', 'POST', '/access/login', WATCHER);
    expect(cookie).toMatch(new RegExp(`^mistpeak-${server.port}=[\\w-]{43}; `));
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    expect(await roleOf(cookie.split(';')[0] as string)).toBe('watcher');
  });

  it.each([
    [{ password: 'seabird counts' }, 401, 'wrong-password'],
    [{ password: '' }, 401, 'wrong-password'],
    [{}, 400, 'field-refused'],
    [{ password: 7 }, 400, 'field-refused'],
  ])('%j is refused', async (body, status, reason) =>
    expect(await as('', 'POST', '/access/login', body)).toMatchObject({ status, reason }),
  );

  it('is not tried more than five times a minute, also when all come at once', async () => {
    clock.pass(60_000);
    const guesses = Array.from({ length: 40 }, (_, i) =>
      as('', 'POST', '/access/login', { password: `guess ${i}` }),
    );
    const reasons = (await Promise.all(guesses)).map(({ reason }) => reason);
    expect(reasons.filter((reason) => reason === 'wrong-password')).toHaveLength(5);
    expect(reasons.filter((reason) => reason === 'too-many-tries')).toHaveLength(35);
    expect(await as('', 'POST', '/access/login', WATCHER)).toMatchObject({ status: 429 });
    // By a clock that nobody sets.
    clock.setWall(3_600_000);
    expect(await as('', 'POST', '/access/login', WATCHER)).toMatchObject({ status: 429 });
    clock.setWall(-3_600_000);
    clock.pass(60_000);
    expect(await as('', 'POST', '/access/login', WATCHER)).toMatchObject({ status: 204 });
  });

  it('needs a password of some length, and not one that the other role has', async () => {
    const set = (role: string, password: string) => as('', 'PUT', `/access/passwords/${role}`, { password });
    expect(await set('operator', 'short')).toMatchObject({ status: 400, reason: 'field-refused' });
    expect(await set('operator', WATCHER.password)).toMatchObject({ status: 409, reason: 'password-taken' });
    expect(await set('owner', 'long enough')).toMatchObject({ status: 400 });
  });
});

describe('a watcher', () => {
  let cookie: string;
  beforeAll(async () => {
    await server.ask('PUT', `/links/${linkId}/lock`, { call: `${TEST_CALL}-7` });
    cookie = await loggedIn(WATCHER);
  });

  it('reads', async () => {
    for (const path of ['/links', '/frames', '/stations/tracks', '/operator', '/health'])
      expect((await as(cookie, 'GET', path)).status).toBe(200);
  });

  it('cannot transmit, arm, or change anything, not even on this machine', async () => {
    const commands: [string, string, unknown?][] = [
      ['POST', '/beacon/transmissions', { id: crypto.randomUUID(), linkId }],
      ['PUT', `/links/${linkId}/lock`, { call: `${TEST_CALL}-7` }],
      ['DELETE', `/links/${linkId}/lock`],
      ['PUT', '/beacon', BEACON],
      ['PUT', '/operator', OPERATOR],
      ['POST', '/links', linkTo(1)],
      ['POST', `/links/${linkId}/open`],
      ['POST', `/links/${linkId}/close`],
      ['POST', `/links/${linkId}/evidence`, { rung: 'keyed' }],
      ['POST', `/links/${linkId}/captures`],
      ['POST', '/kit/items', {}],
      ['PUT', '/kit', { file: '' }],
      ['POST', '/chains', {}],
      ['PUT', `/chains/${linkId}/bench`],
      ['POST', `/chains/${linkId}/ticks`, {}],
      ['POST', `/chains/${linkId}/trials`, {}],
      ['POST', `/chains/${linkId}/evidence`, { rung: 'keyed' }],
      ['DELETE', `/trials/${linkId}`],
      ['PUT', '/access/passwords/operator', { password: 'mine from now on' }],
      ['DELETE', '/access/passwords/watcher'],
    ];
    for (const [method, path, body] of commands)
      expect([path, await as(cookie, method, path, body)]).toMatchObject([
        path,
        { status: 403, reason: 'watcher-cannot' },
      ]);
    const { body } = await server.ask<{ phase: string }[]>('GET', '/links');
    expect(body).toMatchObject([{ phase: expect.stringMatching(/silent|hearing/) as string }]);
  });

  it('sends nothing through the event stream', async () => {
    const before = peer.everything();
    const socket = new WebSocket(`ws://127.0.0.1:${server.port}/api/v1/live`, { headers: { cookie } });
    const events: string[] = [];
    socket.on('message', (data: Buffer) => events.push(data.toString()));
    await until('a snapshot', () => events[0]);
    const id = crypto.randomUUID();
    for (const words of [
      { event: 'beacon', data: { id, linkId } },
      { kind: 'transmission', data: { id, linkId, state: 'queued' } },
      { kind: 'lock', data: { linkId, armed: true, call: TEST_CALL } },
    ])
      socket.send(JSON.stringify(words));
    socket.send(Buffer.from('c00082c0', 'hex'));
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(peer.everything()).toBe(before);
    expect(events.slice(1).filter((event) => event.includes(id))).toEqual([]);
    socket.close();
  });

  it('is out when the password is changed', async () => {
    await server.ask('PUT', '/access/passwords/watcher', { password: 'another count' });
    expect(await roleOf(cookie)).toBe('operator');
    await server.ask('PUT', '/access/passwords/watcher', WATCHER);
  });

  it('in the demo gives the place back by logging out', async () => {
    const watching = await loggedIn(WATCHER);
    expect(await as(watching, 'POST', '/access/logout')).toMatchObject({ status: 204 });
    expect(await roleOf(watching)).toBe('operator');
  });
});

describe('who is on this machine', () => {
  it.each([
    ['127.0.0.1', true],
    ['127.1.2.3', true],
    ['::1', true],
    ['::ffff:127.0.0.1', true],
    ['192.168.1.5', false],
    ['::ffff:192.168.1.5', false],
    ['fe80::1', false],
    [undefined, false],
  ])('%s: %s', (remoteAddress, expected) =>
    expect(isLoopback({ socket: { remoteAddress } } as IncomingMessage)).toBe(expected),
  );
});
