import { createServer, type AddressInfo, type Socket } from 'node:net';
import type { TrueTimeView } from '@mistpeak/contract/true-time';
import type { Machine } from '../departure/machine.js';
import { CorrectableClock } from '../adapters/correctable-clock.js';
import type { LiveService } from '../live/live.service.js';
import { MovedClock } from '../testing/moved-clock.js';
import type { Clock } from '@mistpeak/link/clock';
import type { DataSource } from 'typeorm';
import { TrueTimeService } from './true-time.service.js';
import { makeDatabase, OPERATOR, ServerUp, until } from '../testing/server-up.js';

const HOUR = 3_600_000;
const clock = new MovedClock();
const startedUpMs = clock.upMs();
let boot = 'a';
const machine: Machine = {
  bootId: () => boot,
  uptimeS: () => 600 + (clock.upMs() - startedUpMs) / 1000,
  addresses: () => [],
  freeGb: () => 10,
  startsByItself: () => false,
};
let databaseUrl = '';
let server: ServerUp;
const sockets: Socket[] = [];
const receiver = createServer((socket) => {
  sockets.push(socket);
  socket.on('error', () => undefined);
});

beforeAll(async () => {
  await new Promise<void>((resolve) => void receiver.listen(0, '127.0.0.1', resolve));
  databaseUrl = await makeDatabase();
  server = await ServerUp.on(databaseUrl, { clock, machine });
  await server.ask('PUT', '/operator', OPERATOR);
  const { port } = receiver.address() as AddressInfo;
  await server.ask('PUT', '/whereabouts/receiver', { kind: 'network', host: '127.0.0.1', port });
});
afterAll(async () => {
  await server.close();
  sockets.forEach((socket) => socket.destroy());
  receiver.close();
});

const view = async (): Promise<TrueTimeView> => (await server.ask<TrueTimeView>('GET', '/true-time')).body;
const viewOnce = (fits: (view: TrueTimeView) => boolean): Promise<TrueTimeView> =>
  until('the time', async () => {
    const now = await view();
    return fits(now) ? now : undefined;
  });
const correct = (offByMs: number) =>
  server.ask<TrueTimeView>('PUT', '/true-time/correction', { offByMs, withinMs: 0 });

/** What the satellites say is right: the test's own clock, by which ours was set wrong. */
async function satellitesTell(times = 3): Promise<void> {
  const socket = await until('the receiver', () => sockets.at(-1));
  for (let i = 0; i < times; i++)
    socket.write(`{"class":"TPV","mode":3,"lat":-29.6,"lon":-11.4,"time":"${new Date().toISOString()}"}\n`);
}

/** What the receiver told has been read. */
async function placeIsKnown(): Promise<void> {
  const page = server.follow();
  await until(
    'the place',
    () =>
      page.events.some(
        (event) =>
          (event.kind === 'snapshot' && event.data.whereabouts.fix !== undefined) ||
          (event.kind === 'whereabouts' && event.data.fix !== undefined),
      ) || undefined,
  );
  page.close();
}

async function startAgain(bootId: string): Promise<void> {
  await server.close();
  boot = bootId;
  server = await ServerUp.on(databaseUrl, { clock, machine });
}

it('a clock that is right is not spoken of', async () => {
  await satellitesTell();
  await placeIsKnown();
  expect(await view()).toEqual({ correctedByMs: 0, stretches: [] });
  expect((await correct(HOUR)).status).toBe(404);
});

describe('a computer that woke three hours behind', () => {
  let putRight: TrueTimeView;

  beforeAll(async () => {
    clock.setWall(-3 * HOUR);
    await startAgain('b');
  });

  it('is told once three sentences agree', async () => {
    await satellitesTell(2);
    await placeIsKnown();
    expect((await view()).wrong).toBeUndefined();
    await satellitesTell(1);
    const { wrong } = await viewOnce((now) => now.wrong !== undefined);
    expect(wrong).toEqual({ source: 'receiver', offByMs: expect.closeTo(3 * HOUR, -4) as number });
  });

  it('posts no letter with that date, and keeps it as a draft', async () => {
    const letter = {
      ...{ to: ['1X9ABC'], cc: [], subject: 's', text: 't', files: [], beyondLatin1: 'utf-8' },
      ...{ precedence: 'routine', onlyInternet: false },
    };
    const posted = await server.ask('POST', '/mail/messages', { ...letter, box: 'outbox' });
    expect(posted).toMatchObject({ status: 409, body: { reason: 'clock-wrong' } });
    expect((await server.ask('POST', '/mail/messages', { ...letter, box: 'drafts' })).status).toBe(201);
  });

  it('is put right by the operator’s word, once', async () => {
    const { wrong } = await view();
    const { body } = await correct(wrong?.offByMs ?? 0);
    putRight = body;
    expect(body.wrong).toBeUndefined();
    expect(body.correctedByMs).toBeCloseTo(3 * HOUR, -4);
    const last = body.stretches.at(-1);
    expect(last?.offByMs).toBeCloseTo(3 * HOUR, -4);
    // Since the computer was started, ten minutes ago.
    expect((last?.toMs ?? 0) - (last?.fromMs ?? 0)).toBeCloseTo(machine.uptimeS() * 1000, -3);
    const { body: now } = await server.ask<{ nowMs: number }>('GET', '/true-time/now');
    expect(now.nowMs).toBeCloseTo(Date.now(), -4);
    // Pressed twice.
    expect((await correct(wrong?.offByMs ?? 0)).body.correctedByMs).toBe(body.correctedByMs);
    expect((await view()).stretches).toEqual(body.stretches);
  });

  it('stays right over a restart of Mistpeak, and not over one of the computer', async () => {
    await startAgain('b');
    expect(await view()).toMatchObject({
      correctedByMs: putRight.correctedByMs,
      stretches: putRight.stretches,
    });
    await startAgain('c');
    expect(await view()).toEqual({ correctedByMs: 0, stretches: putRight.stretches });
  });

  it('is left as it is where the operator says so, and told anew when the difference is another', async () => {
    await satellitesTell();
    await viewOnce((now) => now.wrong !== undefined);
    expect((await server.ask<TrueTimeView>('DELETE', '/true-time/correction')).body.wrong).toBeUndefined();
    await satellitesTell();
    expect((await view()).wrong).toBeUndefined();
  });

  it('whoever sets the computer’s clock has said what was wrong: it stands beside the record, and can be taken back', async () => {
    const before = (await view()).stretches.length;
    clock.setWall(3 * HOUR);
    clock.pass(2000);
    const set = await viewOnce(({ stretches }) => stretches.length > before);
    expect(set.stretches.at(-1)?.offByMs).toBeCloseTo(3 * HOUR, -4);
    // It begins where the last one ended, not at the start of the computer again.
    expect(set.stretches.at(-1)?.fromMs).toBe(set.stretches.at(-2)?.toMs);
    expect(set.correctedByMs).toBe(0);
    await satellitesTell();
    expect((await view()).wrong).toBeUndefined();
  });

  it('a correction ends when the clock is set, and leaves no second stretch', async () => {
    clock.setWall(-HOUR);
    await startAgain('d');
    await satellitesTell();
    const { wrong } = await viewOnce((now) => now.wrong !== undefined);
    const corrected = (await correct(wrong?.offByMs ?? 0)).body;
    clock.setWall(HOUR);
    clock.pass(2000);
    const set = await viewOnce(({ correctedByMs }) => correctedByMs === 0);
    expect(set.stretches).toEqual(corrected.stretches);
  });

  it('of a clock that was ahead there is no stretch, and none is taken back', async () => {
    clock.setWall(HOUR);
    await startAgain('ahead');
    await satellitesTell();
    const { wrong, stretches } = await viewOnce((now) => now.wrong !== undefined);
    expect(wrong?.offByMs).toBeCloseTo(-HOUR, -4);
    expect((await correct(wrong?.offByMs ?? 0)).body.stretches).toEqual(stretches);
    const { body } = await server.ask<TrueTimeView>('DELETE', '/true-time/correction');
    expect(body).toEqual({ correctedByMs: 0, stretches });
    clock.setWall(-HOUR);
  });

  it('a correction that is taken back takes its stretch with it', async () => {
    clock.setWall(-HOUR);
    await startAgain('e');
    await satellitesTell();
    const { wrong, stretches } = await viewOnce((now) => now.wrong !== undefined);
    // Two tabs at once make one.
    const both = await Promise.all([correct(wrong?.offByMs ?? 0), correct(wrong?.offByMs ?? 0)]);
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    expect((await view()).stretches).toHaveLength(stretches.length + 1);
    const { body } = await server.ask<TrueTimeView>('DELETE', '/true-time/correction');
    expect(body).toEqual({ correctedByMs: 0, stretches });
    clock.setWall(HOUR);
  });
});

it('a device that shares this clock tells nothing; numbers beyond a century are refused', async () => {
  await server.ask('POST', '/true-time/devices', { offByMs: 5 * HOUR, withinMs: 10 });
  expect((await view()).wrong?.source).not.toBe('phone');
  const { status } = await server.ask('POST', '/true-time/devices', { offByMs: 4e12, withinMs: 10 });
  expect(status).toBe(400);
});

describe('what devices of the network tell', () => {
  const own = new MovedClock();
  const service = (startsAtMs?: number, itsClock: Clock = own): TrueTimeService =>
    new TrueTimeService(
      new CorrectableClock(itsClock),
      { databaseUrl: '', port: 0, webFolder: undefined, startsAtMs },
      machine,
      { query: () => Promise.resolve([]) } as unknown as DataSource,
      { publish: () => undefined } as unknown as LiveService,
    );

  it('counts for ten minutes, behind what a receiver tells', () => {
    // One that stands still but where it is told to go on.
    let passedMs = 0;
    const still: Clock = {
      nowMs: () => Date.UTC(2026, 9, 12),
      upMs: () => passedMs,
      after: () => () => undefined,
    };
    const time = service(undefined, still);
    time.deviceTold({ offByMs: 2100, withinMs: 100 });
    expect(time.view().wrong).toBeUndefined();
    time.deviceTold({ offByMs: 2101, withinMs: 100 });
    expect(time.view().wrong).toEqual({ source: 'phone', offByMs: 2101 });
    passedMs += 599_999;
    expect(time.view().wrong).toBeDefined();
    passedMs += 1;
    expect(time.view().wrong).toBeUndefined();
    time.deviceTold({ offByMs: HOUR, withinMs: 100 });
    for (let i = 0; i < 3; i++) time.receiverTold(Date.UTC(2026, 9, 12) + 100);
    expect(time.view().wrong).toBeUndefined();
    expect(() => time.refuseWhileWrong()).not.toThrow();
  });

  it('a clock that is set while the database is away is written when it is back', async () => {
    const written: string[] = [];
    let isAway = true;
    const time = new TrueTimeService(
      new CorrectableClock(own),
      { databaseUrl: '', port: 0, webFolder: undefined },
      { ...machine, uptimeS: () => 600 },
      {
        query: (sql: string) => {
          if (sql.startsWith('INSERT') && isAway) return Promise.reject(new Error('away'));
          written.push(sql.slice(0, 22));
          return Promise.resolve([]);
        },
      } as unknown as DataSource,
      { publish: () => undefined, contribute: () => undefined } as unknown as LiveService,
    );
    await time.onApplicationBootstrap();
    own.setWall(HOUR);
    own.pass(2000);
    await new Promise((resolve) => setTimeout(resolve, 5));
    const before = written.length;
    isAway = false;
    own.pass(2000);
    await until('the stretch', () => written.includes('INSERT INTO wrong_time') || undefined);
    expect(written.slice(before)[0]).toBe('INSERT INTO wrong_time');
    own.pass(2000);
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(written.filter((sql) => sql === 'INSERT INTO wrong_time')).toHaveLength(1);
    time.onModuleDestroy();
    own.setWall(-HOUR);
  });

  it('is nothing in a world that has its own time', () => {
    const time = service(Date.UTC(2026, 9, 12));
    time.deviceTold({ offByMs: HOUR, withinMs: 1 });
    expect(time.view().wrong).toBeUndefined();
  });
});
