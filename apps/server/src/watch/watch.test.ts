import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { encodeAprs } from '@mistpeak/core/aprs/encode';
import type { AprsReport } from '@mistpeak/core/aprs/report';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { encodeMessage } from '@mistpeak/core/aprs/message';
import { GRACE_MS } from '@mistpeak/core/watch/standing';
import type { DutyEntry, SightingView, WatchView } from '@mistpeak/contract/watch';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

const MINUTE = 60_000;
const clock = new MovedClock();
const bench = linkedBench({ clock });

const LINE = {
  call: '1X9CRT-9',
  label: 'Cart D',
  group: 'carts',
  contact: '',
  everyMin: 5,
  leg: '',
  offM: 500,
  finish: '',
  finishRadiusM: 300,
};
const ROAD = {
  name: 'road',
  kind: 'route',
  points: [
    { latitudeDeg: -29.6, longitudeDeg: -11.4 },
    { latitudeDeg: -29.7, longitudeDeg: -11.4 },
  ],
};
const view = async (): Promise<WatchView> => (await bench.server.ask<WatchView>('GET', '/watch')).body;
const save = async (more: object): Promise<{ status: number; body: Record<string, unknown> }> =>
  bench.server.ask('PUT', '/watch/settings', { ...(await view()).settings, ...more });
const log = async (): Promise<string[]> => {
  const { body } = await bench.server.ask<DutyEntry[]>('GET', '/watch/log');
  return body.map(({ kind, call = '', need = '', words }) => [kind, call, need, words].join(' ').trim());
};
const hear = (source: string, destination: string, info: string | Uint8Array): void => {
  const octets = typeof info === 'string' ? fromLatin1(info) : info;
  bench.peer.send(`c000${toHex(encodeFrame(uiFrame(source, destination, [], octets)))}c0`);
};
const hearReport = (source: string, report: Partial<AprsReport>): void => {
  const { destination = 'APZMPK', info } = encodeAprs({
    type: 'position',
    latitudeDeg: -29.65,
    longitudeDeg: -11.4,
    symbol: { table: '/', code: '>' },
    ...report,
  });
  hear(source, destination, info);
};
const sightingOnce = (call: string, arrivals: number): Promise<SightingView> =>
  until(`${arrivals} arrivals of ${call}`, async () => {
    const { body } = await bench.server.ask<SightingView[]>('GET', '/watch/sightings');
    return body.find((one) => one.call === call && one.sighting.arrivals.length >= arrivals);
  });
const alarmOnce = (need: string, isThere = true): Promise<WatchView> =>
  until(`${need} ${isThere}`, async () => {
    const now = await view();
    return now.alarms.some((one) => one.need === need) === isThere ? now : undefined;
  });

beforeAll(() => bench.server.ask('PUT', '/operator', OPERATOR));

it('before anything is set up, nobody is looked after', async () => {
  expect(await view()).toMatchObject({ settings: { watched: [], legs: [], version: 0 }, alarms: [] });
});

it('who was heard within the hour before is known at once; who begins with an older list is refused', async () => {
  hearReport('1X9CRT-9', {});
  hear('1X9OTH', 'APZMPK', '>not on any list');
  await until('stored', async () =>
    (await bench.server.ask<unknown[]>('GET', '/frames')).body.length >= 2 ? true : undefined,
  );
  const { status } = await save({ name: 'Count', watched: [LINE], legs: [ROAD] });
  expect(status).toBe(200);
  expect((await sightingOnce('1X9CRT-9', 1)).sighting.position?.latitudeDeg).toBeCloseTo(-29.65, 3);
  expect((await save({ version: 0 })).status).toBe(409);
  const { body } = await bench.server.ask<SightingView[]>('GET', '/watch/sightings');
  expect(body.map(({ call }) => call)).toEqual(['1X9CRT-9']);
});

it.each([
  [{ watched: [LINE, LINE] }, 'watched'],
  [{ watched: [{ ...LINE, leg: 'nowhere' }] }, 'watched'],
  [{ legs: [ROAD, ROAD] }, 'legs'],
  [{ name: 'x'.repeat(61) }, 'name'],
])('refuses %j', async (more, field) => {
  expect(await save(more)).toMatchObject({
    status: 400,
    body: { fields: { [field]: expect.any(String) as string } },
  });
});

it.each([
  ['call', ''],
  ['everyMin', 0.4],
  ['everyMin', 1441],
  ['stillMin', 0.5],
  ['offM', 19],
  ['finish', 'nowhere'],
  ['finishRadiusM', 20_001],
])('refuses one whose %s is %j', async (field, value) => {
  expect((await save({ watched: [{ ...LINE, [field]: value }] })).status).toBe(400);
});

it('silence is an alarm when its time has come; it is acknowledged with a note, and ends with the next packet', async () => {
  clock.pass(10 * MINUTE + GRACE_MS + 1000);
  const { alarms } = await alarmOnce('overdue');
  const [alarm] = alarms;
  const path = `/watch/alarms/${encodeURIComponent(alarm?.id ?? '')}/acknowledgement`;
  await bench.server.ask('PUT', path, { note: 'rang them' });
  await bench.server.ask('PUT', path, { note: 'twice' });
  expect((await view()).alarms[0]?.acknowledged?.note).toBe('rang them');
  hearReport('1X9CRT-9', {});
  await alarmOnce('overdue', false);
  expect(await log()).toEqual([
    'raised 1X9CRT-9 overdue',
    'acknowledged 1X9CRT-9 overdue rang them',
    'ended 1X9CRT-9 overdue',
  ]);
});

it('a word to one of our calls is one alarm, however often it comes; to others it is none', async () => {
  const ours = encodeMessage(`${TEST_CALL}-7`, 'wheel broken', '12');
  hear('1X9CRT-9', 'APZMPK', encodeMessage('1X9OTH', 'not for us', '11'));
  hear('1X9CRT-9', 'APZMPK', ours);
  hear('1X9CRT-9', 'APZMPK', ours);
  const { alarms } = await alarmOnce('called');
  await sightingOnce('1X9CRT-9', 5);
  expect(alarms[0]).toMatchObject({ call: '1X9CRT-9', words: 'wheel broken' });
  expect((await log()).slice(3)).toEqual([
    'message 1X9CRT-9  wheel broken',
    'raised 1X9CRT-9 called wheel broken',
  ]);
});

it('an emergency of a packet is one, and over with a packet that tells none', async () => {
  hearReport('1X9CRT-9', { symbol: { table: '\\', code: '!' } });
  await alarmOnce('emergency');
  hear('1X9CRT-9', 'APZMPK', '>a status says nothing about it');
  await sightingOnce('1X9CRT-9', 7);
  expect((await view()).alarms.map(({ need }) => need)).toContain('emergency');
  hearReport('1X9CRT-9', {});
  await alarmOnce('emergency', false);
});

it('a position with digits left out is off the road only beyond its doubt', async () => {
  await save({ watched: [{ ...LINE, leg: 'road', offM: 100 }] });
  hearReport('1X9CRT-9', { longitudeDeg: -11.405, ambiguityDigits: 3 });
  await sightingOnce('1X9CRT-9', 9);
  expect((await view()).alarms.some(({ need }) => need === 'off')).toBe(false);
  hearReport('1X9CRT-9', { longitudeDeg: -11.405 });
  await alarmOnce('off');
});

it('a volunteer who only watches acknowledges and writes notes, and nothing else', async () => {
  await bench.server.ask('PUT', '/access/passwords/watcher', { password: 'seabird count' });
  const base = `http://127.0.0.1:${bench.server.port}/api/v1`;
  const json = { 'content-type': 'application/json' };
  const login = await fetch(`${base}/access/login`, {
    method: 'POST',
    headers: json,
    body: JSON.stringify({ password: 'seabird count' }),
  });
  const headers = { ...json, cookie: login.headers.getSetCookie()[0]?.split(';')[0] ?? '' };
  const as = async (method: string, path: string, body: object): Promise<number> =>
    (await fetch(base + path, { method, headers, body: JSON.stringify(body) })).status;
  const [alarm] = (await view()).alarms.filter(({ need }) => need === 'off');
  const path = `/watch/alarms/${encodeURIComponent(alarm?.id ?? '')}/acknowledgement`;
  expect(await as('PUT', path, { note: 'they take the short cut' })).toBe(200);
  expect(await as('POST', '/watch/notes', { words: 'soup at seven', call: '1X9CRT-9' })).toBe(201);
  expect(await as('PUT', '/watch/settings', (await view()).settings)).toBe(403);
  expect(await as('POST', '/watch/begin', {})).toBe(403);
  expect(await as('POST', '/watch/notes/x', { words: 'no' })).toBe(403);
  expect((await log()).slice(-2)).toEqual([
    'acknowledged 1X9CRT-9 off they take the short cut',
    'note 1X9CRT-9  soup at seven',
  ]);
});

it('what stood before a restart stands after it, acknowledged as it was', async () => {
  const before = await view();
  expect(before.alarms.length).toBeGreaterThan(0);
  await bench.server.close();
  bench.server = await ServerUp.on(bench.databaseUrl, { clock });
  expect(await view()).toEqual(before);
  expect((await sightingOnce('1X9CRT-9', 10)).sighting.arrivals).toHaveLength(10);
});

it('a new watch counts the last hour alone, and says so in its log', async () => {
  clock.pass(61 * MINUTE);
  await bench.server.ask('POST', '/watch/begin');
  expect(await bench.server.ask<SightingView[]>('GET', '/watch/sightings')).toMatchObject({ body: [] });
  expect((await view()).alarms.filter(({ need }) => need !== 'overdue')).toEqual([]);
  expect((await log()).some((line) => line.startsWith('begun'))).toBe(true);
});
