import { encodeFrame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { encodePcap } from '@mistpeak/core/pcap/pcap';
import { CAPTURE_TYPE } from '@mistpeak/contract/frame';
import type { ChannelHealth, WeatherOf } from '@mistpeak/contract/listening';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';

const clock = new MovedClock();
const bench = linkedBench({ clock });
const MINUTE = 60_000;
const NOW = Date.now();
const WEATHER = '!2939.07S/01117.23W_090/004g010t061h80b10130';

async function take(lines: readonly (readonly [minutesAgo: number, line: string])[]): Promise<void> {
  const packets = lines.map(([minutesAgo, line]) => {
    const frame = parseMonitorText(line);
    if (isMalformed(frame)) throw new Error(frame.malformed);
    return { atMs: Math.round(NOW - minutesAgo * MINUTE), packet: Uint8Array.of(0, ...encodeFrame(frame)) };
  });
  await fetch(`http://127.0.0.1:${bench.server.port}/api/v1/links/${bench.link.id}/captures`, {
    method: 'POST',
    headers: { 'content-type': CAPTURE_TYPE },
    body: encodePcap(packets) as Uint8Array<ArrayBuffer>,
  });
}

beforeAll(() =>
  take([
    [25 * 60, `QH6WXA-13>APZMPK:${WEATHER}`],
    [70, `QH6WXA-13>APZMPK:${WEATHER}`],
    [50, `QH6WXA-13>APZMPK,WIDE2-1:${WEATHER}`],
    [49.99, `QH6WXA-13>APZMPK,QH1TOP*:${WEATHER}`],
    [40, 'QH8BTB-8>APZMPK,WIDE1-1,WIDE3-3:>boat'],
    [10, `QH6WXA-13>APZMPK:${WEATHER.replace('t061', 't062')}`],
  ]),
);

const weather = async (query = ''): Promise<WeatherOf[]> =>
  (await bench.server.ask<WeatherOf[]>('GET', `/listening/weather${query}`)).body;

it('the weather of the last hours, copies being one', async () => {
  const [one, ...others] = await weather();
  expect(others).toEqual([]);
  expect(one?.name).toBe('QH6WXA-13');
  expect(one?.reports.map(({ atMs }) => Math.round((NOW - atMs) / MINUTE))).toEqual([70, 50, 10]);
  expect(one?.reports.at(-1)?.weather.windGustMps).toBeCloseTo(4.47, 2);
  expect((await weather('?hours=1'))[0]?.reports).toHaveLength(2);
  expect((await weather('?hours=26'))[0]?.reports).toHaveLength(4);
});

it('the channel of a link, by its own rate, others’ TXDELAY assumed', async () => {
  const path = `/listening/health/${bench.link.id}`;
  const { body } = await bench.server.ask<ChannelHealth>('GET', path);
  expect(body.minutes).toHaveLength(60);
  expect(body.senders.map(({ name, packets, frames }) => [name, packets, frames])).toEqual([
    ['QH6WXA-13', 2, 3],
    ['QH8BTB-8', 1, 1],
  ]);
  // 16 + 14 octets of address, control, PID and info with FCS and flags at 1200 Bd take a quarter of a second and more.
  expect(body.senders[1]?.airMs).toBeGreaterThan(300 + 250);
  expect(body.senders[1]?.airMs).toBeLessThan(300 + 450);
  expect(body.misuse).toMatchObject([{ call: 'QH8BTB-8', text: 'it asks for 4 hops in all' }]);
  const day = await bench.server.ask<ChannelHealth>('GET', `${path}?minutes=1440`);
  expect(day.body.senders[0]).toMatchObject({ name: 'QH6WXA-13', frames: 4 });
});

it.each(['weather?hours=0', 'weather?hours=73', 'health/x'])('refuses %s', async (path) => {
  expect((await bench.server.ask('GET', `/listening/${path}`)).status).toBe(400);
});

it.each([4, 1441])('refuses %i minutes', async (minutes) => {
  expect(
    (await bench.server.ask('GET', `/listening/health/${bench.link.id}?minutes=${minutes}`)).status,
  ).toBe(400);
});

it('knows no channel of a link that is not there', async () => {
  const path = '/listening/health/00000000-0000-4000-8000-000000000000';
  expect((await bench.server.ask('GET', path)).status).toBe(404);
});
