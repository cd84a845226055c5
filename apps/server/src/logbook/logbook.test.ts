import { randomUUID } from 'node:crypto';
import pg from 'pg';
import type { Comparison, StreamPage, TripRecord, TripView } from '@mistpeak/contract/logbook';
import { MovedServer } from '../testing/moved-server.js';
import { OPERATOR, until } from '../testing/server-up.js';

const rig = MovedServer.forAllTests();
const HOUR = 3_600_000;
const PNG = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex').toString('base64');

interface Answer<Body> {
  status: number;
  body: Body & { fields?: Record<string, string> };
}
async function sql<Row extends pg.QueryResultRow>(sql: string, values: unknown[] = []): Promise<Row[]> {
  const client = new pg.Client({ connectionString: rig.server.databaseUrl });
  await client.connect();
  const { rows } = await client.query<Row>(sql, values);
  await client.end();
  return rows;
}
const stream = async (query = ''): Promise<StreamPage> =>
  (await rig.server.ask<StreamPage>('GET', `/logbook?${query}`)).body;
const headings = async (query = ''): Promise<string[]> =>
  (await stream(query)).entries.map(({ what }) => what);
const note = (words: string, more: object = {}): Promise<Answer<object>> =>
  rig.server.ask('POST', '/logbook/notes', { words, ...more });
const report = (call: string, answered: boolean, hoursAgo: number): Promise<unknown> =>
  rig.server.ask('POST', '/gateways/reports', {
    ...{ call, answered, reporter: '' },
    atMs: Math.floor(rig.clock.nowMs() - hoursAgo * HOUR),
  });

it('notes and tries stand in one stream, newest first, found by words, kind and how it went', async () => {
  await report('1X5SAL-10', false, 3);
  await report('1X5VEL-10', true, 2);
  expect((await note('the mast is up')).status).toBe(204);
  expect(await headings('kinds=note,gateway')).toEqual(['Note', '1X5VEL-10', '1X5SAL-10']);
  expect(await headings('words=MAST')).toEqual(['Note']);
  expect(await headings('kinds=gateway&ok=no')).toEqual(['1X5SAL-10']);
  expect(await headings('ok=yes&kinds=gateway')).toEqual(['1X5VEL-10']);
  expect((await rig.server.ask('GET', '/logbook?kinds=colour')).status).toBe(400);
});

it('by pages, of which each begins where the last ended, also where several are of one time', async () => {
  const atMs = Math.floor(rig.clock.nowMs() - 5 * HOUR);
  for (const answered of [true, true, true, false])
    await rig.server.ask('POST', '/gateways/reports', { call: '1X5OST-10', answered, reporter: '', atMs });
  const seen: string[] = [];
  let query = 'kinds=gateway&limit=2';
  for (let page = 0; page < 5; page++) {
    const { entries, next } = await stream(query);
    seen.push(...entries.map(({ id }) => id));
    if (!next) break;
    query = `kinds=gateway&limit=2&beforeMs=${next.beforeMs}&beforeId=${next.beforeId}`;
  }
  expect(new Set(seen).size).toBe(seen.length);
  expect(seen).toHaveLength(6);
});

it('more than one reading of a table holds: nothing is left out between tables', async () => {
  await sql(
    `INSERT INTO logbook_note (id, at, words)
     SELECT gen_random_uuid(), $1::timestamptz - make_interval(mins => n * 6), 'many' FROM generate_series(1, 450) AS n`,
    [new Date(rig.clock.nowMs() - 10 * HOUR).toISOString()],
  );
  const seen: string[] = [];
  let query = 'limit=100';
  for (let page = 0; page < 12; page++) {
    const { entries, next } = await stream(query);
    seen.push(...entries.map(({ atMs }) => new Date(atMs).toISOString()));
    if (!next) break;
    query = `limit=100&beforeMs=${next.beforeMs}&beforeId=${next.beforeId}`;
  }
  expect(seen).toEqual([...seen].sort().reverse());
  expect((await stream('words=many&limit=500')).entries).toHaveLength(450);
});

it('the watch is told as the desk speaks', async () => {
  const duty = (minutesAgo: number, kind: string, need: string | null, words = '') =>
    sql(
      `INSERT INTO duty_entry (id, at, kind, call, label, need, words)
       VALUES (gen_random_uuid(), $1, $2, $3, $4, $5, $6)`,
      [
        new Date(rig.clock.nowMs() - minutesAgo * 60_000).toISOString(),
        kind,
        ...(need ? ['1X8CLC-7', 'Team C'] : [null, null]),
        need,
        words,
      ],
    );
  await duty(9, 'begun', null, 'Seabirds');
  await duty(8, 'raised', 'off');
  await duty(7, 'ended', 'off');
  const { entries } = await stream('kinds=alarm');
  expect(entries.map(({ what, words }) => [what, words])).toEqual([
    ['Over: is off the leg', '1X8CLC-7, Team C'],
    ['Alarm: is off the leg', '1X8CLC-7, Team C'],
    ['Watch begun', 'Seabirds'],
  ]);
});

it('beacons are told by runs: which ends after an hour of silence, how long it was and how much came back', async () => {
  const nowMs = rig.clock.nowMs();
  const at = (minutesAgo: number): string => new Date(nowMs - minutesAgo * 60_000).toISOString();
  const beacon = (
    source: string,
    minutesAgo: number,
    more: { echoes?: number; state?: string; purpose?: string } = {},
  ) =>
    sql(
      `INSERT INTO transmission (id, link_id, source, purpose, raw, air_time_ms, queued_at, handed_at, state, echoes)
       VALUES (gen_random_uuid(), gen_random_uuid(), $1, $2, '', 700, $3, $3, $4, $5)`,
      [
        source,
        more.purpose ?? 'beacon',
        at(minutesAgo),
        more.state ?? 'handed',
        JSON.stringify(Array.from({ length: more.echoes ?? 0 }, () => ({}))),
      ],
    );
  for (const minutesAgo of [400, 340, 280])
    await beacon('1X9TST-7', minutesAgo, { echoes: minutesAgo === 340 ? 2 : 0 });
  // A minute too late for the same run.
  await beacon('1X9TST-7', 219);
  await beacon('1X9TST-9', 300, { echoes: 1 });
  await beacon('1X9TST-9', 299.5);
  await beacon('1X9TST-9', 298, { state: 'abandoned' });
  await beacon('1X9TST-9', 297, { purpose: 'message' });
  const { entries } = await stream('kinds=beacon');
  expect(entries.map(({ what, words, ok }) => [what, words, ok])).toEqual([
    ['1X9TST-7: one beacon', '0 came back from a digipeater, 0.7 s on the air', false],
    ['1X9TST-7: 3 beacons in 2.0 h', '1 came back from a digipeater, 2.1 s on the air', true],
    ['1X9TST-9: 2 beacons in under a minute', '1 came back from a digipeater, 1.4 s on the air', true],
  ]);
  const [first] = entries;
  const page = await stream(`kinds=beacon&limit=1&beforeMs=${first?.atMs}&beforeId=${first?.id}`);
  expect(page.entries).toEqual(entries.slice(1, 2));
});

it('a note may have a picture, which is served as what it is; anything else is refused', async () => {
  await note('with a picture', { pictureBase64: PNG });
  const [entry] = (await stream('words=picture')).entries;
  expect(entry).toMatchObject({ kind: 'note', hasPicture: true });
  const answer = await fetch(`http://127.0.0.1:${rig.server.port}/api/v1/logbook/notes/${entry?.id}/picture`);
  expect(answer.headers.get('content-type')).toBe('image/png');
  expect(Buffer.from(await answer.arrayBuffer()).toString('base64')).toBe(PNG);
  const script = Buffer.from('<script>alert(1)</script>').toString('base64');
  expect((await note('bad', { pictureBase64: script })).body.fields?.pictureBase64).toMatch(/a JPEG/);
  expect((await note('  ')).status).toBe(400);
});

it('a note that is removed can be brought back', async () => {
  const [entry] = (await stream('words=mast')).entries;
  await rig.server.ask('DELETE', `/logbook/notes/${entry?.id}`);
  expect(await headings('words=mast')).toEqual([]);
  const leaving = await until('the removal', () => rig.latest('removals')?.[0]);
  expect(leaving.words).toBe('the note “the mast is up”');
  await rig.server.ask('POST', `/removals/${encodeURIComponent(leaving.id)}/back`, {});
  expect(await headings('words=mast')).toEqual(['Note']);
});

it('what was changed is told, and two moments are compared, the most suspect first', async () => {
  rig.clock.pass(4000);
  await until('the first moment', async () => (await moments()) === 1 || undefined);
  const workedMs = Math.floor(rig.clock.nowMs());
  rig.clock.pass(HOUR);
  const { body: now } = await rig.server.ask<{ version: number }>('GET', '/operator');
  await rig.server.ask('PUT', '/operator', { ...OPERATOR, place: '29.7 S 11.4 W', version: now.version });
  rig.clock.pass(4000);
  await until('the second moment', async () => (await moments()) === 2 || undefined);
  const [change] = (await stream('kinds=change')).entries;
  expect(change?.words).toMatch(/^place: .* → 29\.7 S 11\.4 W$/);
  const compare = (fromMs: number, toMs: number): Promise<Answer<Comparison>> =>
    rig.server.ask('GET', `/logbook/compare?fromMs=${fromMs}&toMs=${toMs}`);
  const { body } = await compare(workedMs, Math.floor(rig.clock.nowMs()));
  expect(body.differences).toMatchObject([{ area: 'place', after: '29.7 S 11.4 W' }]);
  expect(body.from?.beginMs).toBeLessThanOrEqual(workedMs);
  expect((await compare(1000, workedMs)).body).toEqual({ to: body.from, differences: [] });
  expect((await compare(workedMs, workedMs)).body.differences).toEqual([]);
});

it('of a trial from before there were moments, its parts are compared', async () => {
  const atMs = 5000;
  const items = [
    { id: 'a', name: 'Handheld', kind: 'radio', version: '1.4', switches: { kiss: 'on' } },
    { id: 'b', name: 'Phone', kind: 'host', switches: {} },
  ];
  await sql(
    `INSERT INTO trial (id, at, purpose, items, antenna, result, trick, settings, note)
     VALUES ($1, $2, 'beacon', $3, 'whip', 'works', '', '{}', '')`,
    [randomUUID(), new Date(atMs).toISOString(), JSON.stringify(items)],
  );
  const path = `/logbook/compare?fromMs=${atMs}&toMs=${Math.floor(rig.clock.nowMs())}`;
  const { body } = await rig.server.ask<Comparison>('GET', path);
  expect(body).toMatchObject({ isOfTrial: true, from: { beginMs: atMs } });
  // Nothing of it is in this kit: all of it is no more there.
  expect(body.differences.map(({ name, before, after }) => [name, before, after])).toEqual([
    ['KISS', 'on', undefined],
    ['antenna', 'whip', undefined],
    ['version', '1.4', undefined],
  ]);
});

const moments = async (): Promise<number> =>
  Number((await sql<{ count: string }>('SELECT count(*) FROM moment'))[0]?.count);

it('a trip gathers what happened on it; saved by version, removed and brought back', async () => {
  const nowMs = Math.floor(rig.clock.nowMs());
  const trip = { name: 'Corvel crag', fromMs: nowMs - 3.5 * HOUR, place: 'IG40', better: '' };
  const { body: begun } = await rig.server.ask<TripView>('POST', '/logbook/trips', trip);
  expect(begun).toMatchObject({ ...trip, version: 1 });
  const { body: ended } = await rig.server.ask<TripView>('PUT', `/logbook/trips/${begun.id}`, {
    ...trip,
    toMs: nowMs,
    better: 'a longer mast',
    version: 1,
  });
  expect(ended.version).toBe(2);
  const late = await rig.server.ask('PUT', `/logbook/trips/${begun.id}`, { ...trip, version: 1 });
  expect(late.status).toBe(409);
  const early = { ...trip, toMs: trip.fromMs - 1, version: 2 };
  expect((await rig.server.ask('PUT', `/logbook/trips/${begun.id}`, early)).status).toBe(400);
  const { body } = await rig.server.ask<TripRecord>('GET', `/logbook/trips/${begun.id}`);
  expect(body.calls.map(({ call }) => call)).toEqual(['1X5VEL-10']);
  expect(body.entries.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['gateway', 'note', 'change']));
  expect(body.entries.every(({ atMs }) => atMs >= trip.fromMs && atMs <= nowMs)).toBe(true);
  await rig.server.ask('DELETE', `/logbook/trips/${begun.id}`);
  await until('it to be gone', () => rig.latest('trips')?.length === 0 || undefined);
  const leaving = rig.latest('removals')?.find(({ words }) => words === 'the trip Corvel crag');
  await rig.server.ask('POST', `/removals/${encodeURIComponent(leaving?.id ?? '')}/back`, {});
  await until('it to be back', () => rig.latest('trips')?.length === 1 || undefined);
  expect((await rig.server.ask('GET', `/logbook/trips/${randomUUID()}`)).status).toBe(404);
});

it('contacts go out as ADIF', async () => {
  const view = {
    ...{
      peer: '1X2HUT-1',
      own: '1X9TST',
      purpose: 'terminal',
      calledBy: 'us',
      connectedAtMs: 0,
      endedAtMs: HOUR,
    },
    frequencyMHz: 144.8,
  };
  await sql(
    `INSERT INTO session (id, link_id, opened_at, touched_at, ended_at, view) VALUES ($1, $1, now(), now(), now(), $2)`,
    [randomUUID(), JSON.stringify(view)],
  );
  const answer = await fetch(`http://127.0.0.1:${rig.server.port}/api/v1/logbook/contacts.adi`);
  expect(await answer.text()).toContain(
    '<CALL:8>1X2HUT-1<STATION_CALLSIGN:6>1X9TST<QSO_DATE:8>19700101<TIME_ON:6>000000' +
      '<QSO_DATE_OFF:8>19700101<TIME_OFF:6>010000<MODE:3>PKT<FREQ:8>144.8000<BAND:2>2m<EOR>',
  );
});
