import { randomUUID } from 'node:crypto';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { ask, COURSE, drillOf, name } from '@mistpeak/core/drills/drill';
import { relayText } from '@mistpeak/core/drills/exercises';
import { isWorldFault, type PracticeOrder } from '@mistpeak/core/drills/practice';
import { scoreOf } from '@mistpeak/core/drills/score';
import type { DrillsView, EndedPractice, RunningPractice } from '@mistpeak/contract/drills';
import { toHex, fromLatin1 } from '@mistpeak/core/bits/octets';
import pg from 'pg';
import { MovedServer } from '../testing/moved-server.js';
import { makeDatabase, OPERATOR, ServerUp, until } from '../testing/server-up.js';

/** In the place of the practice world: keeps its orders, and answers as it is told to. */
const orders: PracticeOrder[] = [];
let answer: string | undefined = 'done\n';
const sockets = new Set<Socket>();
const world = createServer((socket) => {
  sockets.add(socket);
  socket.on('error', () => undefined);
  socket.on('data', (octets) => {
    if (answer === 'done\n') orders.push(JSON.parse(octets.toString('utf8')) as PracticeOrder);
    if (answer === '') socket.end();
    else if (answer !== undefined) socket.write(answer);
  });
});
let practicePort = 0;
const rig = MovedServer.forAllTests(async () => {
  await new Promise<void>((resolve) => world.listen(0, '127.0.0.1', resolve));
  practicePort = (world.address() as AddressInfo).port;
  return { practicePort };
});
afterAll(() => {
  sockets.forEach((socket) => socket.destroy());
  world.close();
});

const ENDED = { seed: 7, faults: ['path'], tests: ['echo', 'sheet'], named: ['path'] };
const keep = (more: object = {}): Promise<{ status: number; body: DrillsView }> =>
  rig.server.ask('POST', '/drills', { ...ENDED, ...more });
const view = async (): Promise<DrillsView> => (await rig.server.ask<DrillsView>('GET', '/drills')).body;
const running = async (): Promise<RunningPractice | undefined> => (await view()).practice.running;
const begin = (what: string): Promise<{ status: number; body: DrillsView }> =>
  rig.server.ask('POST', '/drills/practice', { what });
const leave = () => rig.server.ask('DELETE', '/drills/practice');

/** Rows as the rooms that own them write them. */
async function write(query: string, values: readonly unknown[], url = rig.server.databaseUrl): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query(query, [...values]);
  await client.end();
}
const now = (): string => new Date(rig.clock.nowMs() + 1).toISOString();
const wroteFrame = (direction: 'heard' | 'sent') =>
  write('INSERT INTO frames (id, heard_at, link_id, direction, port, raw) VALUES ($1, $2, $3, $4, 0, $5)', [
    randomUUID(),
    now(),
    randomUUID(),
    direction,
    Buffer.from([1]),
  ]);

it('what a drill came to is reckoned by the server, and kept in order', async () => {
  await keep();
  const { body } = await keep({ named: ['held'] });
  const drill = ask(ask(drillOf(['path'], 7), 'echo'), 'sheet');
  expect(body.results).toMatchObject([
    { faults: ['path'], named: ['path'], tests: 2, score: scoreOf(name(drill, ['path'])) },
    { named: ['held'], score: scoreOf(name(drill, ['held'])) },
  ]);
  expect(await view()).toEqual(body);
});

it.each([
  ['faults', { faults: ['gremlins'] }],
  ['faults', { faults: [] }],
  ['faults', { faults: ['path', 'held', 'clock'] }],
  ['tests', { tests: ['prayer'] }],
  ['named', { named: ['gremlins'] }],
  ['seed', { seed: 1.5 }],
])('what is not known is refused: %s', async (_, more) => expect((await keep(more)).status).toBe(400));

describe('a drill on the real pages', () => {
  it('puts its fault into the world, tells every page the complaint, and nobody the fault', async () => {
    const { status, body } = await begin('course 6');
    expect(status).toBe(201);
    expect(orders.splice(0)).toEqual([{ faults: ['over-deviated'], ownCall: OPERATOR.call, gateways: {} }]);
    expect(body.practice).toMatchObject({ place: 'here', running: { packets: 0, drill: { findings: [] } } });
    expect(JSON.stringify(body.practice)).not.toContain('over-deviated');
    const told = await until('the pages', () => rig.latest('practised') ?? undefined);
    expect(told).toEqual({
      beganAtMs: body.practice.running?.beganAtMs,
      isDrill: true,
      words: body.practice.running?.drill?.complaint,
    });
    expect((await begin('one')).status).toBe(409);
  });

  it('goes on after a restart, in a world that is told again', async () => {
    const before = await running();
    await rig.server.close();
    rig.server = await ServerUp.on(rig.server.databaseUrl, { clock: rig.clock, practicePort });
    rig.page.close();
    rig.page = rig.server.follow();
    expect(await running()).toEqual(before);
    expect(orders.splice(0)).toMatchObject([{ faults: ['over-deviated'] }]);
  });

  it('asks for what no page shows; counts what was sent; named, the world is well and the result is kept', async () => {
    const asked = await rig.server.ask<DrillsView>('POST', '/drills/practice/tests', { test: 'second' });
    expect(asked.body.practice.running?.drill?.findings).toHaveLength(1);
    await write('CREATE TABLE frames_of_test PARTITION OF frames DEFAULT', []);
    await wroteFrame('sent');
    await wroteFrame('sent');
    await wroteFrame('heard');
    rig.clock.pass(12 * 60_000);
    expect((await running())?.packets).toBe(2);
    const { body } = await rig.server.ask<EndedPractice>('POST', '/drills/practice/causes', {
      named: ['over-deviated'],
    });
    expect(body.spent.packets).toBe(2);
    expect(body.spent.minutes).toBeGreaterThanOrEqual(12);
    expect(body.drill).toMatchObject({ faults: ['over-deviated'], named: ['over-deviated'] });
    expect(body.view.results.at(-1)).toMatchObject({
      tests: 1,
      onPages: true,
      score: scoreOf(body.drill, body.spent),
    });
    expect(orders.splice(0)).toEqual([{ faults: [], gateways: {} }]);
    expect(await running()).toBeUndefined();
    await until('the pages', () => rig.latest('practised') === null || undefined);
    const again = await rig.server.ask('POST', '/drills/practice/causes', { named: ['over-deviated'] });
    expect(again.status).toBe(404);
  });

  it('by surprise has faults that the world can have, two of them where two are asked for', async () => {
    for (const what of ['one', 'two']) {
      await begin(what);
      const [order] = orders.splice(0);
      expect(order?.faults).toHaveLength(what === 'two' ? 2 : 1);
      await leave();
      orders.splice(0);
    }
    expect((await view()).results).toHaveLength(3);
  });

  it.each([
    ['course 11', 400],
    ['course 0', 400],
    ['everything', 400],
    [`course ${COURSE.findIndex((fault) => !isWorldFault(fault)) + 1}`, 400],
  ])('is refused: %s', async (what, status) => expect((await begin(what)).status).toBe(status));

  it('of two who press at once one begins it, and one ends it', async () => {
    const statuses = async (asked: Promise<{ status: number }>[]): Promise<number[]> =>
      (await Promise.all(asked)).map(({ status }) => status).sort();
    const before = (await view()).results.length;
    expect(await statuses([begin('one'), begin('two')])).toEqual([201, 409]);
    expect(orders.splice(0)).toHaveLength(1);
    const named = { named: ['deaf'] };
    const name = () => rig.server.ask('POST', '/drills/practice/causes', named);
    expect(await statuses([name(), name()])).toEqual([201, 404]);
    expect((await view()).results).toHaveLength(before + 1);
    orders.splice(0);
  });

  it('chosen for somebody else it has those faults, the same named twice but once', async () => {
    for (const [what, faults] of [
      ['chosen deaf path', ['deaf', 'path']],
      ['chosen deaf deaf', ['deaf']],
    ] as const) {
      await begin(what);
      expect(orders.splice(0)[0]?.faults).toEqual(faults);
      await leave();
      orders.splice(0);
    }
    for (const what of [
      'chosen clock',
      'chosen deaf clock',
      'chosen',
      'chosen gremlins',
      'chosen deaf path squelch',
    ])
      expect((await begin(what)).status).toBe(400);
  });

  it('is not begun in a world that says no, or nothing', async () => {
    answer = 'no thank you\n';
    expect((await begin('one')).body).toMatchObject({ reason: 'practice-world-away' });
    expect(await running()).toBeUndefined();
    // It hangs up without a word.
    answer = '';
    expect((await begin('one')).body).toMatchObject({ reason: 'practice-world-away' });
    answer = 'done\n';
  });
});

describe('exercises', () => {
  it('a relay by hand is proved by what the record holds', async () => {
    await begin('relay');
    const [order] = orders.splice(0);
    const words = /: (.*)$/.exec(order?.says?.text ?? '')?.[1] as string;
    expect(order?.says).toMatchObject({ from: 'QH8CLA-7', to: OPERATOR.call });
    const steps = async (): Promise<boolean[]> =>
      ((await running())?.exercise?.steps ?? []).map(({ isDone }) => isDone);
    expect(await steps()).toEqual([false, false, false, false, false]);
    const textHex = toHex(fromLatin1(order?.says?.text ?? ''));
    await write('INSERT INTO message_received (id, at, entry) VALUES ($1, $2, $3)', [
      randomUUID(),
      now(),
      JSON.stringify({ from: 'QH8CLA-7', textHex }),
    ]);
    const sent = (to: string, text: string): Promise<void> =>
      write('INSERT INTO message_outgoing (id, at, entry) VALUES ($1, $2, $3)', [
        randomUUID(),
        now(),
        JSON.stringify({ to, text, phase: { kind: 'acknowledged' } }),
      ]);
    await sent('QH7CTC-9', `from QH8CLA-7: ${relayText(-1)}`);
    expect(await steps()).toEqual([true, false, false, false, false]);
    await sent('QH7CTC-9', `from QH8CLA-7: ${words}`);
    await sent('QH8CLA-7', 'arrived');
    expect(await steps()).toEqual([true, true, true, true, true]);
    const { body } = await rig.server.ask<DrillsView>('POST', '/drills/practice/exercise');
    expect(body.exercises).toMatchObject([{ exercise: 'relay', isDone: true }]);
    expect(body.practice.running).toBeUndefined();
  });

  it('the tally: two gateways in trouble, and the third has taken it', async () => {
    const gateways = ['B1BBB-10', 'C1CCC-10', 'D1DDD-10'].map((call) => ({ call }));
    await write('UPDATE mail SET settings = $1', [
      JSON.stringify({ profiles: [{ gateways: [] }, { gateways }, { gateways: [{ call: 'E1EEE' }] }] }),
    ]);
    orders.splice(0);
    await begin('tally');
    expect(orders.splice(0)[0]?.gateways).toEqual({
      'B1BBB-10': 'silent',
      'C1CCC-10': 'without service',
      'D1DDD-10': 'serves',
    });
    await write(
      `INSERT INTO mail_message (id, mid, is_ours, box, octets, row, at, is_read, words)
       VALUES ($1, 'M1', true, 'sent', '', $2, $3, true, '')`,
      [randomUUID(), JSON.stringify({ subject: 'Tally of today', to: ['QH3PRT'] }), now()],
    );
    const attempt = (gateway: string, result: string) => ({ gateway, result });
    await write(`INSERT INTO mail_run (id, started_at, view, lines) VALUES ($1, $2, $3, '[]')`, [
      randomUUID(),
      now(),
      JSON.stringify({
        attempts: [
          attempt('B1BBB-10', 'no answer'),
          attempt('C1CCC-10', 'lost'),
          attempt('D1DDD-10', 'done'),
        ],
        out: [{ mid: 'M1', state: 'taken' }],
      }),
    ]);
    const { exercise } = (await running()) as RunningPractice;
    expect(exercise?.task).toContain('go on to D1DDD-10');
    expect(exercise?.steps.map(({ isDone }) => isDone)).toEqual([true, true, true, true]);
    // A drill it is not.
    expect((await rig.server.ask('POST', '/drills/practice/causes', { named: ['deaf'] })).status).toBe(404);
    await leave();
    expect((await view()).exercises).toHaveLength(1);
    expect((await rig.server.ask('POST', '/drills/practice/exercise')).status).toBe(404);
  });
});

describe('with real radios', () => {
  it('what was restored from a practice world is over', async () => {
    const url = await makeDatabase();
    await (await ServerUp.on(url, { clock: rig.clock })).close();
    const practised = { island: {}, drill: drillOf(['deaf'], 1) };
    await write(
      'INSERT INTO practice (id, begun_at, practised) VALUES (1, $1, $2)',
      [now(), JSON.stringify(practised)],
      url,
    );
    const server = await ServerUp.on(url, { clock: rig.clock });
    expect((await server.ask<DrillsView>('GET', '/drills')).body.practice).toEqual({ place: 'none' });
    await server.close();
  });

  it('nothing is put into them; a practice world beside is wished for once, and told where it is when it answers', async () => {
    let begun = 0;
    const beside = { port: rig.server.port, begin: () => void begun++ };
    const server = await ServerUp.on(await makeDatabase(), { clock: rig.clock, beside });
    await server.ask('PUT', '/operator', OPERATOR);
    const ask = <Body>(method: string, path: string, body?: unknown) => server.ask<Body>(method, path, body);
    expect((await ask<DrillsView>('GET', '/drills')).body.practice).toEqual({ place: 'beside' });
    expect((await ask('POST', '/drills/practice', { what: 'one' })).body).toMatchObject({
      reason: 'no-practice-world',
    });
    await ask('POST', '/drills/beside');
    const { body } = await ask<DrillsView>('POST', '/drills/beside');
    expect(begun).toBe(1);
    expect(body.practice.besideAt).toBe(`http://127.0.0.1:${rig.server.port}`);
    await server.close();
    expect((await rig.server.ask('POST', '/drills/beside')).status).toBe(409);
  });
});
