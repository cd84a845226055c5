import { closeSync, mkdtempSync, openSync, rmSync } from 'node:fs';
import { connect, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LOGIN_LASTS_MS } from './logins.js';
import { MovedClock } from '../testing/moved-clock.js';
import { makeDatabase, ServerUp, until } from '../testing/server-up.js';

const SECRET = 'only the launcher knows';
const MIB = 1024 * 1024;

let clock: MovedClock;
let server: ServerUp;
beforeAll(async () => {
  clock = new MovedClock();
  server = await ServerUp.on(await makeDatabase(), { clock, trustsLoopback: false, launcherSecret: SECRET });
});
afterAll(() => server.close());

/** Plain octets: what a browser would not let us send. */
class Caller {
  received = '';
  isClosed = false;
  sent = 0;
  private constructor(private readonly socket: Socket) {
    socket.on('data', (octets: Buffer) => (this.received += octets.toString('latin1')));
    socket.on('error', () => undefined);
    socket.on('close', () => (this.isClosed = true));
  }

  static call(): Promise<Caller> {
    return new Promise((resolve) => {
      const socket = connect(server.port, '127.0.0.1', () => resolve(new Caller(socket)));
    });
  }

  head(method: string, path: string, ...lines: string[]): this {
    const head = [`${method} ${path} HTTP/1.1`, `host: 127.0.0.1:${server.port}`, ...lines, '', ''];
    return this.say(head.join('\r\n'));
  }

  say(octets: string | Buffer): this {
    this.socket.write(octets, () => (this.sent += octets.length));
    return this;
  }

  answer(status: number): Promise<true> {
    return until(`${status}, got ${this.received.slice(0, 80)}`, () =>
      this.received.startsWith(`HTTP/1.1 ${status}`) ? true : undefined,
    );
  }

  closed(): Promise<true> {
    return until('the end', () => this.isClosed || undefined);
  }
}

/** How long another request takes meanwhile, ms. */
async function othersWait(): Promise<number> {
  const from = performance.now();
  await fetch(`http://127.0.0.1:${server.port}/api/v1/access`);
  return performance.now() - from;
}

const json = 'content-type: application/json';

describe('nobody', () => {
  it.each([
    ['GET', '/api/v1/links'],
    ['GET', '/api/v1/nowhere'],
    ['GET', '/api/v1/access/devices'],
    ['POST', '/api/v1/access/pairings'],
    ['POST', '/api/v1/access/close-house'],
    ['PUT', '/api/v1/access/passwords/operator'],
    ['POST', '/api/v1/beacon/transmissions'],
    ['POST', '/API/V1/links'],
    ['GET', '/map/island.geojson'],
    ['GET', '/map'],
    ['PATCH', '/api/v1/access'],
  ])('is sent away from %s %s', async (method, path) => {
    const caller = (await Caller.call()).head(method, path);
    await caller.answer(401);
    expect(caller.received).toContain('"reason":"login-needed"');
  });

  it.each([
    ['/api/v1/kit', json],
    [
      '/api/v1/links/00000000-0000-4000-8000-000000000000/captures',
      'content-type: application/vnd.tcpdump.pcap',
    ],
  ])('is sent away from %s before a body of 200 MB is read', async (path, type) => {
    const before = process.memoryUsage().rss;
    const caller = (await Caller.call()).head('POST', path, type, `content-length: ${200 * MIB}`);
    const piece = Buffer.alloc(MIB, 0x5b);
    for (let i = 0; i < 20 && !caller.isClosed; i++) {
      caller.say(piece);
      await new Promise((resolve) => setImmediate(resolve));
    }
    await caller.answer(401);
    await caller.closed();
    expect(process.memoryUsage().rss - before).toBeLessThan(100 * MIB);
  });

  it('says that a connection is kept for longer than between two looks', async () => {
    const caller = (await Caller.call()).head('GET', '/api/v1/health');
    await until('an answer', () => /\r\n\r\n/.test(caller.received) || undefined);
    expect(caller.received).toMatch(/keep-alive: timeout=75/i);
  });

  it('logs in with no more than 4 kB, and not for long', async () => {
    const large = (await Caller.call()).head('POST', '/api/v1/access/login', json, 'content-length: 5000');
    large.say('x'.repeat(5000));
    await large.answer(413);
    const slow = (await Caller.call()).head('POST', '/api/v1/access/pair', json, 'content-length: 30');
    slow.say('{"code":');
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect(slow.isClosed).toBe(false);
    clock.pass(10_000);
    await slow.closed();
  });

  it('opens no socket: it is refused in the upgrade, and destroyed', async () => {
    const upgrade = ['upgrade: websocket', 'connection: upgrade', 'sec-websocket-version: 13'];
    for (const path of ['/api/v1/live', '/api/v1/wire?link=x']) {
      const caller = (await Caller.call()).head(
        'GET',
        path,
        ...upgrade,
        'sec-websocket-key: c2VhYmlyZCBjb3VudCAxMg==',
      );
      await until('a refusal', () => caller.received.startsWith('HTTP/1.1 4') || undefined);
      await caller.closed();
    }
  });

  it('sees by which doors one comes in, and nothing else', async () => {
    expect((await server.ask('GET', '/access')).body).toEqual({
      role: null,
      isLocal: true,
      isTrusted: false,
      isLoggedIn: false,
      passwords: { operator: false, watcher: false },
      addresses: [],
    });
  });
});

describe('the address that the launcher prints', () => {
  const entrance = async (secret: string) => {
    const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1/access/entrances`, {
      method: 'POST',
      headers: { 'x-launcher-secret': secret },
    });
    return { status: answer.status, ...((await answer.json()) as { token?: string }) };
  };
  const enter = async (token: string) => {
    const answer = await fetch(`http://127.0.0.1:${server.port}/enter?token=${token}`, {
      redirect: 'manual',
    });
    return {
      status: answer.status,
      to: answer.headers.get('location'),
      cookie: answer.headers.getSetCookie()[0]?.split(';')[0],
      kept: answer.headers.get('cache-control'),
    };
  };
  const roleWith = async (cookie: string): Promise<unknown> => {
    const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1/access`, { headers: { cookie } });
    return ((await answer.json()) as { role: unknown }).role;
  };

  it('lets the operator in, once', async () => {
    const { token = '' } = await entrance(SECRET);
    const { status, to, cookie = '', kept } = await enter(token);
    expect([status, to, kept]).toEqual([303, '/', 'no-store']);
    expect(await roleWith(cookie)).toBe('operator');
    expect(await enter(token)).toMatchObject({ status: 303, to: '/?entrance=used', cookie: undefined });
  });

  it('is given to nobody without the secret', async () => {
    for (const secret of ['', 'guess', `${SECRET}x`]) expect((await entrance(secret)).status).toBe(401);
    expect(await enter('guess')).toMatchObject({ cookie: undefined });
    expect(await enter('')).toMatchObject({ cookie: undefined });
  });

  it('lets in for thirty days, and the browser is told the same', () => {
    expect(LOGIN_LASTS_MS).toBe(30 * 24 * 3_600_000);
  });

  it('lasts an hour', async () => {
    const [first, second] = [await entrance(SECRET), await entrance(SECRET)];
    clock.pass(3_599_000);
    expect((await enter(first.token ?? '')).cookie).toBeDefined();
    clock.pass(1000);
    expect((await enter(second.token ?? '')).cookie).toBeUndefined();
  });

  it('of a server that no launcher started there is none', async () => {
    const alone = await ServerUp.on(await makeDatabase(), { trustsLoopback: false });
    const answer = await fetch(`http://127.0.0.1:${alone.port}/api/v1/access/entrances`, {
      method: 'POST',
      headers: { 'x-launcher-secret': '' },
    });
    expect(answer.status).toBe(401);
    await alone.close();
  });
});

describe('the operator', () => {
  let cookie: string;
  beforeAll(async () => {
    const made = await fetch(`http://127.0.0.1:${server.port}/api/v1/access/entrances`, {
      method: 'POST',
      headers: { 'x-launcher-secret': SECRET },
    });
    const { token } = (await made.json()) as { token: string };
    const answer = await fetch(`http://127.0.0.1:${server.port}/enter?token=${token}`, {
      redirect: 'manual',
    });
    cookie = answer.headers.getSetCookie()[0]?.split(';')[0] ?? '';
  });
  const put = (body: string) =>
    fetch(`http://127.0.0.1:${server.port}/api/v1/operator`, {
      method: 'PUT',
      headers: { cookie, 'content-type': 'application/json' },
      body,
    });

  it.each([
    ['nested 100,000 deep', '['.repeat(100_000)],
    ['as wide as 4 MB hold', `{${'"a":1,'.repeat(500_000)}"a":1}`],
    ['many lists', `[${'[1,2],'.repeat(30_000)}0]`],
  ])('sends no JSON %s', async (_, body) => {
    const waiting = othersWait();
    const answer = await put(body);
    expect([answer.status, ((await answer.json()) as { reason: string }).reason]).toEqual([413, 'too-much']);
    expect(await waiting).toBeLessThan(500);
  });

  it('is told of JSON that is none, and of too large a body', async () => {
    expect((await put('{"call":')).status).toBe(400);
    expect((await put(`"${'x'.repeat(5 * MIB)}"`)).status).toBe(413);
  });

  it('has no HTTPS forced on this machine’s other services', async () => {
    expect((await put('{}')).headers.get('strict-transport-security')).toBeNull();
  });

  it.each([
    ['/frames?beforeMs=99999999999999999', 'beforeMs'],
    ['/frames?beforeMs=-1e30', 'beforeMs'],
    ['/frames?limit=0', 'limit'],
    ['/frames?limit=1001', 'limit'],
    ['/frames?limit=ten', 'limit'],
    ['/frames?beforeId=7', 'beforeId'],
    ['/frames/from/QH4MPK?limit=0', 'limit'],
    ['/frames/from/QH4MPK-77', 'call'],
    ['/stations/tracks?sinceMs=1e30', 'sinceMs'],
    ['/stations/tracks?hours=3', 'hours'],
    ['/links/7/open', undefined],
  ])('is told which parameter of %s is out of range', async (path, field) => {
    const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1${path}`, {
      method: path.endsWith('open') ? 'POST' : 'GET',
      headers: { cookie },
    });
    const body = (await answer.json()) as { reason: string; field?: string };
    expect([answer.status, body.reason, body.field]).toEqual([400, 'field-refused', field]);
  });

  it('finds no devices but those below /dev, and learns of no other file whether it is there', async () => {
    const listen = async (path: string) => {
      const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1/links/ports/listening`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: JSON.stringify({ path, speed: 9600 }),
      });
      return {
        status: answer.status,
        ...((await answer.json()) as { failure?: string; failureDetail?: string }),
      };
    };
    expect(await listen('/dev/../etc/passwd')).toMatchObject({ status: 400 });
    const there = await listen('/dev/fd/../../../etc/passwd');
    expect(there.status).toBe(400);
    // A link below /dev that leads elsewhere, to a file or to nothing, is the same nothing.
    expect(await listen('/dev/null')).toMatchObject({ failure: 'not-a-serial-port' });
    expect(await listen('/dev/no-such-port')).toMatchObject({ failure: 'no-such-device', failureDetail: '' });
    const folder = mkdtempSync(join(tmpdir(), 'mistpeak-file-'));
    const file = openSync(join(folder, 'there'), 'w');
    for (const descriptor of [file, 999])
      expect(await listen(`/dev/fd/${descriptor}`)).toMatchObject({
        failure: 'no-such-device',
        failureDetail: '',
      });
    closeSync(file);
    rmSync(folder, { recursive: true });
  });
});
