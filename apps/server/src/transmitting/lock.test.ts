import { randomUUID } from 'node:crypto';
import { IDLE_LIMIT_MS } from '@mistpeak/core/transmitting/lock';
import { ECHO_WINDOW_MS } from '@mistpeak/core/transmitting/echo';
import type { LockView } from '@mistpeak/contract/link';
import { LONGEST_NAP_MS } from '../adapters/system-clock.js';
import { MovedClock } from '../testing/moved-clock.js';
import { linkedBench } from '../testing/linked-bench.js';
import { BEACON, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

const CALL = `${TEST_CALL}-7`;
const HOUR_MS = 3_600_000;

const arm = () => bench.server.ask<LockView>('PUT', `/links/${bench.link.id}/lock`, { call: CALL });
const disarm = () => bench.server.ask('DELETE', `/links/${bench.link.id}/lock`);
const send = (id: string = randomUUID()) =>
  bench.server.ask('POST', '/beacon/transmissions', { id, linkId: bench.link.id });
const beacons = (): number => bench.peer.everything().split('c00082').length - 1;

const clock = new MovedClock();
const bench = linkedBench({ clock });
beforeAll(async () => {
  await bench.server.ask('PUT', '/operator', OPERATOR);
  await bench.server.ask('PUT', '/beacon', BEACON);
});

describe('the lock and time', () => {
  it('falls shut after an idle hour, and pages are told', async () => {
    await arm();
    const page = bench.server.follow();
    await page.find('snapshot');
    clock.pass(IDLE_LIMIT_MS - 5000);
    expect(await send()).toMatchObject({ status: 200 });
    clock.pass(IDLE_LIMIT_MS - 5000);
    expect((await send()).status).toBe(200);
    clock.pass(IDLE_LIMIT_MS);
    expect(await send()).toMatchObject({ body: { reason: 'not-armed' } });
    await page.find('lock', ({ armed }) => !armed);
    page.close();
  });

  it('is shut when the machine wakes after its hour, before any timer has rung', async () => {
    await arm();
    clock.sleep(IDLE_LIMIT_MS);
    const before = beacons();
    expect(await send()).toMatchObject({ body: { reason: 'not-armed' } });
    expect(beacons()).toBe(before);
    const page = bench.server.follow();
    expect((await page.find('snapshot')).locks.filter(({ armed }) => armed)).toEqual([]);
    page.close();
    clock.pass(LONGEST_NAP_MS);
  });

  it.each([-3 * HOUR_MS, 3 * HOUR_MS])(
    'takes no notice of a wall clock that is set by %i ms',
    async (byMs) => {
      await arm();
      clock.setWall(byMs);
      expect((await send()).status).toBe(200);
      clock.setWall(-byMs);
      expect((await send()).status).toBe(200);
      clock.setWall(byMs);
      clock.pass(IDLE_LIMIT_MS);
      expect(await send()).toMatchObject({ body: { reason: 'not-armed' } });
      clock.setWall(-byMs);
    },
  );

  it('nothing leaves after it was closed, however much was on its way', async () => {
    for (let i = 0; i < 10; i++) {
      await arm();
      const sending = Array.from({ length: 4 }, () => send());
      await new Promise((resolve) => setTimeout(resolve, i * 3));
      await disarm();
      // What was with the TNC by then still has its way over the socket.
      await new Promise((resolve) => setTimeout(resolve, 60));
      const before = beacons();
      // Armed again at once: what was begun before the closing must not take this arming for its own.
      await arm();
      clock.pass(20_000);
      const answers = await Promise.all(sending);
      expect(beacons()).toBe(before);
      for (const { status, body } of answers)
        expect([200, 409]).toContain(
          status === 200 || body.reason === 'not-armed' || body.reason === 'closed-meanwhile' ? status : 0,
        );
      await disarm();
    }
  });
});

describe('an echo', () => {
  const echoes = async (id: unknown): Promise<number> => {
    const page = bench.server.follow();
    const { transmissions } = await page.find('snapshot');
    page.close();
    return transmissions.find((one) => one.id === id)?.echoes.length ?? 0;
  };
  /** The beacon as QH1ANR repeats it. */
  const repeat = (rawHex: unknown) => {
    const raw = String(rawHex);
    bench.peer.send(`c000${raw.slice(0, 28)}a29062829ca4e0${raw.slice(28)}c0`);
  };

  it('counts within two minutes, and not after', async () => {
    clock.pass(20_000);
    await arm();
    const first = (await send()).body;
    clock.pass(ECHO_WINDOW_MS - 1000);
    repeat(first.rawHex);
    await until('the echo', async () => ((await echoes(first.id)) === 1 ? true : undefined));
    clock.pass(20_000);
    const second = (await send()).body;
    clock.pass(ECHO_WINDOW_MS);
    repeat(second.rawHex);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(await echoes(second.id)).toBe(0);
    await disarm();
  });
});

describe('two windows', () => {
  it('arming for another call asks; it takes the place of the first only where that is wished', async () => {
    const armAs = (call: string, instead?: boolean) =>
      bench.server.ask('PUT', `/links/${bench.link.id}/lock`, {
        call,
        ...(instead === undefined ? {} : { instead }),
      });
    await arm();
    expect(await arm()).toMatchObject({ status: 200 });
    expect(await armAs(`${TEST_CALL}-9`)).toMatchObject({
      status: 409,
      body: { reason: 'another-call-in-force' },
    });
    expect((await send()).status).toBe(200);
    expect(await armAs(`${TEST_CALL}-9`, true)).toMatchObject({
      status: 200,
      body: { call: `${TEST_CALL}-9` },
    });
    expect(await send()).toMatchObject({ body: { reason: 'armed-for-another-call' } });
    await disarm();
    expect((await armAs(CALL)).status).toBe(200);
  });

  it('that press Send within the air time of the frame make one; after it another', async () => {
    clock.pass(20_000);
    await arm();
    const before = beacons();
    const answers = await Promise.all([send(), send(), send()]);
    answers.push(await send());
    expect(new Set(answers.map(({ body }) => body.id)).size).toBe(1);
    expect(beacons()).toBe(before + 1);
    clock.pass(Number(answers[0]?.body.airTimeMs) + 1);
    expect((await send()).body.id).not.toBe(answers[0]?.body.id);
    await until('the second', () => (beacons() === before + 2 ? true : undefined));
    await disarm();
  });
});

describe('a command', () => {
  it('asked again long after is the first one, and does not stand in the way of the next', async () => {
    clock.pass(20_000);
    await arm();
    const id = randomUUID();
    const before = beacons();
    expect((await send(id)).body.state).toBe('handed');
    clock.pass(20_000);
    expect((await send(id)).body).toMatchObject({ id, state: 'handed' });
    clock.pass(20_000);
    expect((await send()).body.state).toBe('handed');
    await until('the second', () => (beacons() === before + 2 ? true : undefined));
    await disarm();
  });
});

describe('two servers on one database', () => {
  let other: ServerUp;
  beforeAll(async () => (other = await ServerUp.on(bench.server.databaseUrl, { clock })));
  afterAll(() => other.close());

  it('each sees the lock, and each can close it', async () => {
    const page = other.follow();
    await page.find('snapshot');
    await arm();
    expect(await page.find('lock', ({ armed }) => armed)).toMatchObject({
      linkId: bench.link.id,
      call: CALL,
    });
    expect(await other.ask('DELETE', `/links/${bench.link.id}/lock`)).toMatchObject({
      status: 200,
      body: { armed: false },
    });
    await until('the closing', async () => ((await send()).body.reason === 'not-armed' ? true : undefined));
    page.close();
  });

  it('the one that does not hold the link arms nothing', async () => {
    expect(await other.ask('PUT', `/links/${bench.link.id}/lock`, { call: CALL })).toMatchObject({
      status: 409,
      body: { reason: 'link-not-open' },
    });
  });
});

describe('a link that is removed', () => {
  it('while its last over is on the air takes everything of it along', async () => {
    clock.pass(20_000);
    await until('an armed link', async () => ((await arm()).status === 200 ? true : undefined));
    expect((await send()).status).toBe(200);
    expect((await bench.server.ask('DELETE', `/links/${bench.link.id}`)).status).toBeLessThan(300);
    // Every timer that it left behind would ring now.
    expect(() => clock.pass(IDLE_LIMIT_MS)).not.toThrow();
    expect((await bench.server.ask('GET', '/links')).body).toEqual([]);
  });
});
