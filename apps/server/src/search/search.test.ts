import pg from 'pg';
import { encodeFrame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { toHex } from '@mistpeak/core/bits/octets';
import { decodePcap, encodePcap } from '@mistpeak/core/pcap/pcap';
import { CAPTURE_TYPE } from '@mistpeak/contract/frame';
import type { SearchPage } from '@mistpeak/contract/search';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { OPERATOR, until } from '../testing/server-up.js';
import { STRETCH_FRAMES } from './stretches.service.js';

const clock = new MovedClock();
const bench = linkedBench({ clock });
const DAY = 86_400_000;
const BEGIN = Date.now() - 10 * DAY;

/** What was heard, as it is searched here: by a plain walk over all of it. */
const heard: { atMs: number; line: string }[] = [];

async function take(lines: readonly { atMs: number; line: string }[]): Promise<void> {
  heard.push(...lines);
  const packets = lines.map(({ atMs, line }) => {
    const frame = parseMonitorText(line);
    if (isMalformed(frame)) throw new Error(`${line}: ${frame.malformed}`);
    return { atMs, packet: Uint8Array.of(0, ...encodeFrame(frame)) };
  });
  const answer = await fetch(`http://127.0.0.1:${bench.server.port}/api/v1/links/${bench.link.id}/captures`, {
    method: 'POST',
    headers: { 'content-type': CAPTURE_TYPE },
    body: encodePcap(packets) as Uint8Array<ArrayBuffer>,
  });
  expect(await answer.json()).toMatchObject({ taken: lines.length });
}

/** `QH7CTA-9>…: … word i`; every line is another one. */
const lineOf = (i: number): string =>
  `${['QH7CTA-9', 'QH8CLB-7', 'QH3PRT-10'][i % 3]}>APZMPK${i % 5 === 0 ? ',QH1TOP*' : ''}:>tern ${i} ${i % 97 === 0 ? 'gannet' : 'seen'}`;

const ask = async (query: string): Promise<SearchPage> =>
  (await bench.server.ask<SearchPage>('GET', `/record/search?${query}`)).body;

/** All pages of it, as the times of what was found. */
async function findAll(query: string, limit: number): Promise<number[]> {
  const times: number[] = [];
  for (let next = ''; ;) {
    const page = await ask(`${query}&limit=${limit}${next}`);
    expect(page.frames.length).toBeLessThanOrEqual(limit);
    times.push(...page.frames.map(({ atMs }) => atMs));
    if (!page.next) return times;
    next = `&beforeMs=${page.next.beforeMs}${page.next.beforeId ? `&beforeId=${page.next.beforeId}` : ''}`;
  }
}

const expected = (...words: string[]): number[] =>
  heard
    .filter(({ line }) => words.every((word) => line.toLowerCase().includes(word)))
    .map(({ atMs }) => atMs)
    .sort((a, b) => b - a);

const stretches = async (): Promise<number> => {
  const client = new pg.Client({ connectionString: bench.databaseUrl });
  await client.connect();
  const { rows } = await client.query<{ count: string }>('SELECT count(*) FROM record_stretch');
  await client.end();
  return Number(rows[0]?.count);
};
const built = (least: number): Promise<true> =>
  until(`${least} stretches`, async () => {
    clock.pass(10_000);
    return (await stretches()) >= least ? true : undefined;
  });

const WORDS = [
  ['gannet'],
  ['qh8clb', 'tern'],
  ['1455'],
  ['seen', '77'],
  ['nobody'],
  ['te'],
  ['qh1top*', 'gannet'],
];

beforeAll(async () => {
  await bench.server.ask('PUT', '/operator', OPERATOR);
  const many = 3 * STRETCH_FRAMES + 100;
  // Several of one millisecond, and a crowd of them where a stretch ends.
  await take(
    Array.from({ length: many }, (_, i) => ({
      atMs: BEGIN + (i > STRETCH_FRAMES - 20 && i < STRETCH_FRAMES + 20 ? 700_000 : Math.floor(i / 3) * 4000),
      line: lineOf(i),
    })),
  );
});

it.each(WORDS)('before stretches are made, %s … are found in the order of time', async (...words) => {
  expect(await findAll(`words=${encodeURIComponent(words.join(' '))}`, 100)).toEqual(expected(...words));
});

it.each([1, 7, 500])('and the same with stretches, %i a page', async (limit) => {
  await built(3);
  for (const words of WORDS.filter((one) => limit > 1 || expected(...one).length < 40))
    expect(await findAll(`words=${encodeURIComponent(words.join(' '))}`, limit)).toEqual(expected(...words));
});

it('what comes later with times of long ago is found too: stretches are undone and made anew', async () => {
  await take([
    { atMs: BEGIN + 60_000, line: 'QH9BLN-11>APZMPK:>a gannet from before' },
    { atMs: BEGIN - DAY, line: 'QH9BLN-11>APZMPK:>earlier than all' },
  ]);
  for (const words of [['gannet'], ['qh9bln'], ['earlier']])
    expect(await findAll(`words=${words.join(' ')}`, 100)).toEqual(expected(...words));
  await built(3);
  for (const words of [['gannet'], ['qh9bln'], ['earlier']])
    expect(await findAll(`words=${words.join(' ')}`, 100)).toEqual(expected(...words));
});

it('what is heard now is found at once', async () => {
  const frame = parseMonitorText('QH7CTB-9>APZMPK:>just now');
  if (isMalformed(frame)) throw new Error(frame.malformed);
  bench.peer.send(`c000${toHex(encodeFrame(frame))}c0`);
  const page = await until('it', async () => {
    const found = await ask('words=just');
    return found.frames.length > 0 ? found : undefined;
  });
  expect(page).toMatchObject({ isComplete: true, frames: [{ direction: 'heard' }] });
});

it('by kind, way, station, distance and misuse as core says', async () => {
  await take([
    { atMs: BEGIN + 1, line: 'QH7CTC-9>APZMPK,RELAY:!2938.00S/01124.00W>near' },
    { atMs: BEGIN + 2, line: 'QH7CTC-9>APZMPK:!1000.00S/01124.00W>far' },
  ]);
  expect(await findAll('kinds=position', 10)).toEqual([BEGIN + 2, BEGIN + 1]);
  expect(await findAll('kinds=position&withinKm=1000', 10)).toEqual([BEGIN + 1]);
  expect(await findAll('station=qh7ctc&misuse=true', 10)).toEqual([BEGIN + 1]);
  expect((await findAll('ways=repeated&words=gannet', 10)).length).toBe(
    heard.filter(({ line }) => line.includes('gannet') && line.includes('*')).length,
  );
});

it('a search that takes too long gives what it has, and goes on from there when it is asked', async () => {
  // Each look at the clock is one and a half seconds later: a page is one part of the record.
  const upMs = clock.upMs();
  let looks = 0;
  const slow = jest.spyOn(clock, 'upMs').mockImplementation(() => upMs + 1501 * looks++);
  try {
    const first = await ask('words=sn&limit=500');
    expect(first).toMatchObject({ frames: [], isComplete: false, next: expect.anything() as unknown });
    const times = await findAll('words=ee', 500);
    expect(times).toEqual(expected('ee'));
  } finally {
    slow.mockRestore();
  }
});

it.each([
  'kinds=queen',
  'ways=sea',
  'limit=0',
  'limit=501',
  'withinKm=-1',
  'beforeMs=x',
  `words=${'x'.repeat(101)}`,
])('refuses %s', async (query) => {
  expect((await bench.server.ask('GET', `/record/search?${query}`)).status).toBe(400);
});

it('goes out as a file of each form, oldest first, between two times', async () => {
  const get = async (format: string, query = 'station=QH7CTC'): Promise<Response> =>
    fetch(`http://127.0.0.1:${bench.server.port}/api/v1/record/export/${format}?${query}`);
  const pcap = decodePcap(new Uint8Array(await (await get('pcap')).arrayBuffer()));
  expect(!isMalformed(pcap) && pcap.map((one) => (isMalformed(one) ? one : one.atMs))).toEqual([
    BEGIN + 1,
    BEGIN + 2,
  ]);
  expect(await (await get('txt')).text()).toBe(
    `${new Date(BEGIN + 1).toISOString()} QH7CTC-9>APZMPK,RELAY:!2938.00S/01124.00W>near\n` +
      `${new Date(BEGIN + 2).toISOString()} QH7CTC-9>APZMPK:!1000.00S/01124.00W>far\n`,
  );
  expect(await (await get('txt', `station=QH7CTC&sinceMs=${BEGIN + 2}`)).text()).toContain('>far');
  expect(await (await get('txt', `station=QH7CTC&untilMs=${BEGIN + 2}`)).text()).not.toContain('>far');
  expect((await (await get('csv')).text()).split('\r\n')[1]).toContain(
    'QH7CTC-9,APZMPK,RELAY,direct,position,-29.633333,-11.4',
  );
  const gpx = await get('gpx');
  expect(gpx.headers.get('content-disposition')).toContain('heard.gpx');
  expect((await gpx.text()).match(/<trkpt/g)).toHaveLength(2);
  expect(JSON.parse(await (await get('geojson')).text())).toMatchObject({
    features: [{ geometry: { type: 'LineString' } }],
  });
  expect(await (await get('kml')).text()).toContain('<name>QH7CTC-9</name>');
  expect((await get('exe')).status).toBe(404);
});
