import { randomUUID } from 'node:crypto';
import { request } from 'node:http';
import type { ExecutionContext } from '@nestjs/common';
import { lastValueFrom, of } from 'rxjs';
import { COMMAND_ID } from '@mistpeak/contract/command-id';
import { fromLibrary } from '@mistpeak/core/kit/library';
import type { Item } from '@mistpeak/core/kit/item';
import { MovedClock } from '../testing/moved-clock.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp } from '../testing/server-up.js';
import { EVEN_LATE } from './done-even-late.js';
import { MOST_REMEMBERED, OnceInterceptor, REMEMBERED_FOR_MS } from './once.interceptor.js';

const clock = new MovedClock();
let database: string;
let server: ServerUp;

beforeAll(async () => {
  database = await makeDatabase();
  server = await ServerUp.on(database, { clock });
  await server.ask('PUT', '/operator', OPERATOR);
});
afterAll(() => server.close());

async function ask<Body = Record<string, unknown>>(id: string, method: string, path: string, body?: unknown) {
  const response = await fetch(`http://127.0.0.1:${server.port}/api/v1${path}`, {
    method,
    headers: { 'content-type': 'application/json', [COMMAND_ID]: id },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, body: (text ? JSON.parse(text) : undefined) as Body };
}

async function snapshot() {
  const page = server.follow();
  const found = await page.find('snapshot');
  page.close();
  return found;
}

const RADIO = { item: fromLibrary('two-pin-handheld') };
const isIn = async (id: string): Promise<boolean> =>
  (await snapshot()).kit.items.some((one) => one.id === id);
const add = (id: string) => ask<Item>(id, 'POST', '/kit/items', RADIO);

/** Things that a command makes, each with what finds it in a snapshot by its id. */
type Snapshot = Awaited<ReturnType<typeof snapshot>>;
const CHAIN = {
  name: '',
  purpose: 'messages',
  parts: [fromLibrary('tnc-handheld'), fromLibrary('phone'), fromLibrary('phone-map')],
  antenna: '',
  isMoving: false,
  schools: {},
};
const MADE: Readonly<Record<string, [path: string, body: unknown, idsIn: (now: Snapshot) => string[]]>> = {
  item: ['/kit/items', RADIO, ({ kit }) => kit.items.map(({ id }) => id)],
  station: [
    '/own-stations',
    { ssid: 5, role: '', device: 'phone', symbolTable: '/', symbolCode: '[' },
    ({ ownStations }) => ownStations.map(({ id }) => id),
  ],
  link: ['/links', linkTo(1), ({ links }) => links.map(({ id }) => id)],
  chain: ['/chains', CHAIN, ({ chains }) => chains.map(({ id }) => id)],
};

describe('a command under the id of its client', () => {
  it('is done once, however often it comes, and answered alike', async () => {
    const id = randomUUID();
    const answers = await Promise.all([add(id), add(id), add(id)]);
    answers.push(await add(id));
    expect(new Set(answers.map(({ status, body }) => `${status} ${body.id}`))).toEqual(
      new Set([`201 ${id}`]),
    );
    expect((await snapshot()).kit.items.filter((one) => one.id === id)).toHaveLength(1);
  });

  it('is another one by another way, or without an id', async () => {
    const id = randomUUID();
    await add(id);
    expect((await ask(id, 'DELETE', `/kit/items/${id}`)).status).toBe(204);
    expect(await isIn(id)).toBe(false);
    const one = await server.ask<Item>('POST', '/kit/items', RADIO);
    const other = await server.ask<Item>('POST', '/kit/items', RADIO);
    expect(one.body.id).not.toBe(other.body.id);
  });

  it('that was refused may come again', async () => {
    const id = randomUUID();
    const change = () => ask(id, 'PUT', `/kit/items/${id}`, RADIO);
    expect((await change()).status).toBe(404);
    await add(id);
    expect((await change()).status).toBe(200);
  });

  it('is not done again within ten minutes', async () => {
    const id = randomUUID();
    await add(id);
    const remove = () => ask(id, 'DELETE', `/kit/items/${id}`);
    await remove();
    const bringBack = async (): Promise<void> => {
      const [last] = (await snapshot()).removals.slice(-1);
      await server.ask('POST', `/removals/${last?.id}/back`);
      expect(await isIn(id)).toBe(true);
    };
    await bringBack();
    clock.pass(REMEMBERED_FOR_MS - 1000);
    await remove();
    expect(await isIn(id)).toBe(true);
    clock.pass(2000);
    await remove();
    expect(await isIn(id)).toBe(false);
  });

  it('crowds out the oldest only', async () => {
    const once = new OnceInterceptor(clock);
    let done = 0;
    const perform = (id: string): Promise<unknown> => {
      const http = {
        getRequest: () => ({ get: () => id, method: 'POST', originalUrl: '/', socket: {} }),
        getResponse: () => ({ hasHeader: () => id === 'key' }),
      };
      const context = { switchToHttp: () => http, getHandler: () => perform } as unknown as ExecutionContext;
      return lastValueFrom(once.intercept(context, { handle: () => of(done++) }));
    };
    const ids = Array.from({ length: MOST_REMEMBERED }, (_, i) => `${i}`);
    for (const id of ids) await perform(id);
    for (const id of ids) await perform(id);
    expect(done).toBe(MOST_REMEMBERED);
    await perform('one more');
    await perform('1');
    expect(done).toBe(MOST_REMEMBERED + 1);
    await perform('0');
    expect(done).toBe(MOST_REMEMBERED + 2);
    // What hands out a key is asked anew.
    for (let time = 0; time < 2; time++) await perform('key');
    expect(done).toBe(MOST_REMEMBERED + 4);
  });

  it.each([
    ['is not done when its page has gone', { destroyed: true }, false, false],
    ['is not done when its page hangs up', { readableEnded: true }, false, false],
    ['is done while its page is there', {}, false, true],
    ['that makes the station silent is done late too', { destroyed: true, readableEnded: true }, true, true],
  ])('%s', async (_, socket, isForSilence, isDone) => {
    const handler = (): void => undefined;
    if (isForSilence) Reflect.defineMetadata(EVEN_LATE, true, handler);
    const http = {
      getRequest: () => ({ get: () => 'id', method: 'POST', originalUrl: '/', socket }),
      getResponse: () => ({ hasHeader: () => false }),
    };
    const context = { switchToHttp: () => http, getHandler: () => handler } as unknown as ExecutionContext;
    const done = lastValueFrom(new OnceInterceptor(clock).intercept(context, { handle: () => of('done') }));
    if (isDone) expect(await done).toBe('done');
    else await expect(done).rejects.toMatchObject({ reason: 'given-up' });
  });

  it.each(Object.keys(MADE))('makes one %s, also across a restart, and it has that id', async (thing) => {
    const [path, body, idsIn] = MADE[thing] as (typeof MADE)[string];
    const id = randomUUID();
    const before = idsIn(await snapshot()).length;
    expect((await ask(id, 'POST', path, body)).status).toBe(201);
    await server.close();
    server = await ServerUp.on(database, { clock });
    expect(await ask(id, 'POST', path, body)).toMatchObject({ status: 201, body: { id } });
    const ids = idsIn(await snapshot());
    expect(ids).toContain(id);
    expect(ids).toHaveLength(before + 1);
  });

  it('makes one trial', async () => {
    const chain = (await server.ask<{ id: string }>('POST', '/chains', CHAIN)).body.id;
    const trial = { result: 'works', trick: '', settings: {}, note: '' };
    const id = randomUUID();
    for (let time = 0; time < 2; time++) {
      expect(await ask(id, 'POST', `/chains/${chain}/trials`, trial)).toMatchObject({
        status: 201,
        body: { id },
      });
      await server.close();
      server = await ServerUp.on(database, { clock });
    }
    expect((await snapshot()).trials.filter((one) => one.id === id)).toHaveLength(1);
  });

  it('whose page has gone away before the server came to it is not done', async () => {
    const id = randomUUID();
    const body = JSON.stringify(RADIO);
    const post = request({
      port: server.port,
      host: '127.0.0.1',
      method: 'POST',
      path: '/api/v1/kit/items',
      headers: { 'content-type': 'application/json', 'content-length': body.length, [COMMAND_ID]: id },
    });
    post.on('error', () => undefined);
    await new Promise<void>((resolve) => post.write(body, () => resolve()));
    // The server shares this thread: while it is held, what comes in waits, as in a process that was stopped.
    post.destroy();
    const heldUntilMs = Date.now() + 50;
    while (Date.now() < heldUntilMs);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(await isIn(id)).toBe(false);
  });
});

describe('a form that began with another version', () => {
  const EDITED: Readonly<Record<string, (id: string) => [path: string, body: object]>> = {
    item: (id) => [`/kit/items/${id}`, RADIO],
    station: (id) => [`/own-stations/${id}`, MADE.station?.[1] as object],
    link: (id) => [`/links/${id}`, MADE.link?.[1] as object],
    chain: (id) => [`/chains/${id}`, CHAIN],
    operator: () => ['/operator', OPERATOR],
  };
  const versionOf = async (thing: string, id: string): Promise<number | undefined> => {
    const now = await snapshot();
    const known = { item: now.kit.versions[id], operator: now.operator?.version };
    const listed = [...now.links, ...now.ownStations, ...now.chains].find((one) => one.id === id);
    return known[thing as keyof typeof known] ?? listed?.version;
  };

  it.each(Object.keys(EDITED))('is refused for the %s, and the same version is taken', async (thing) => {
    const id = randomUUID();
    const made = MADE[thing];
    if (made) await ask(id, 'POST', made[0], made[1]);
    const [path, body] = (EDITED[thing] as (typeof EDITED)[string])(id);
    const version = (await versionOf(thing, id)) as number;
    const changed = { ...body, ...CHANGES[thing] };
    expect((await server.ask('PUT', path, { ...changed, version })).status).toBe(200);
    expect(await versionOf(thing, id)).toBeGreaterThan(version);
    for (const other of [version, version + 2])
      expect(await server.ask('PUT', path, { ...body, version: other })).toMatchObject({
        status: 409,
        body: { reason: 'changed-meanwhile' },
      });
    expect((await server.ask('PUT', path, { ...body, version: await versionOf(thing, id) })).status).toBe(
      200,
    );
    expect((await server.ask('PUT', path, body)).status).toBe(200);
  });

  const CHANGES: Readonly<Record<string, object>> = {
    item: { item: { ...RADIO.item, name: 'mine' } },
    station: { device: 'tablet' },
    link: { name: 'another' },
    chain: { name: 'Field day' },
    operator: { units: 'nautical' },
  };
});
