import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { concatOctets } from '@mistpeak/core/bits/octets';
import { encodePcap } from '@mistpeak/core/pcap/pcap';
import { CAPTURE_TYPE, type FrameRecord } from '@mistpeak/contract/frame';
import type { Track } from '@mistpeak/contract/station';
import { linkTo, makeDatabase, ServerUp } from '../testing/server-up.js';

const START_MS = Date.UTC(2026, 9, 12, 8);
const LINES = [
  'QH7CTC-9>APZMPK,QH1ANR*,WIDE2-1:!2935.63S/01120.70W>cart',
  'QH7CTC-9>APZMPK:!2935.00S/01120.00W>cart',
  'QH7CTC>APZMPK:!2935.00S/01120.00W>not the same SSID',
  'QH3PRT-10>APZMPK:;H1       *120800z2930.00S/01130.00W;hide 1',
];

let server: ServerUp;
let linkId: string;
beforeAll(async () => {
  server = await ServerUp.on(await makeDatabase());
  linkId = (await server.ask<{ id: string }>('POST', '/links', linkTo(1))).body.id;
});
afterAll(() => server.close());

const packet = (type: number, line: string): Uint8Array =>
  concatOctets(Uint8Array.of(type), encodeFrame(parseMonitorText(line) as Ax25Frame));

async function post(body: Uint8Array, type = CAPTURE_TYPE): Promise<[number, Record<string, unknown>]> {
  const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1/links/${linkId}/captures`, {
    method: 'POST',
    headers: { 'content-type': type },
    body: Buffer.from(body),
  });
  return [answer.status, (await answer.json()) as Record<string, unknown>];
}

describe('a capture', () => {
  it('enters the record with its own times; what is no data frame or has no believable time is refused', async () => {
    const page = server.follow();
    await page.find('snapshot');
    const capture = encodePcap([
      // Out of order, as captures of several programs are.
      ...LINES.map((line, i) => ({
        atMs: START_MS + 60_000 * (3 - i),
        packet: packet(0x00, line),
      })).reverse(),
      { atMs: START_MS, packet: packet(0x06, LINES[0] as string) },
      { atMs: Date.UTC(1980, 0) - 1, packet: packet(0x00, LINES[0] as string) },
      { atMs: Date.now() + 2 * 86_400_000, packet: packet(0x00, LINES[0] as string) },
      { atMs: START_MS + 300_000, packet: Uint8Array.of(0, 1, 2, 3) },
    ]);
    expect(await post(capture)).toEqual([200, { taken: 5, refused: 3 }]);

    const { body: frames } = await server.ask<FrameRecord[]>('GET', '/frames?limit=10');
    expect(frames.map(({ atMs }) => atMs - START_MS)).toEqual([0, 60_000, 120_000, 180_000, 300_000]);
    expect(frames.at(-1)).toMatchObject({ trouble: 'not AX.25', stored: true });
    // Pages open now are told in one go.
    const anew = await page.find('snapshot', (data) => data.frames.length > 0);
    expect(anew.frames).toHaveLength(5);
    expect(anew.stations.map(({ name }) => name).sort()).toEqual(['H1', 'QH7CTC', 'QH7CTC-9']);
    // It proves nothing about the link.
    expect(anew.evidence).toEqual([]);
    page.close();
  });

  it('can be asked by sender, SSID and all', async () => {
    const of = async (call: string): Promise<number> =>
      (await server.ask<FrameRecord[]>('GET', `/frames/from/${call}`)).body.length;
    expect([await of('QH7CTC-9'), await of('qh7ctc'), await of('QH3PRT-10'), await of('QH3PRT')]).toEqual([
      2, 1, 1, 0,
    ]);
    expect(await server.ask('GET', '/frames/from/too-long-a-call')).toMatchObject({
      status: 400,
      body: { reason: 'field-refused' },
    });
  });

  it('leaves tracks of what moved', async () => {
    const { body } = await server.ask<Track[]>('GET', `/stations/tracks?sinceMs=${START_MS}`);
    expect(body).toHaveLength(1);
    const [track] = body as [Track];
    expect(track.name).toBe('QH7CTC-9');
    // 2935.00S and 2935.63S in degrees, by hand.
    expect(track.points.map(([atMs, lat]) => [atMs - START_MS, lat])).toEqual([
      [120_000, expect.closeTo(-29.583333, 5)],
      [180_000, expect.closeTo(-29.593833, 5)],
    ]);
    const later = await server.ask<Track[]>('GET', `/stations/tracks?sinceMs=${START_MS + 150_000}`);
    expect(later.body).toEqual([]);
  });

  it.each([
    ['nothing', new Uint8Array(), CAPTURE_TYPE],
    ['another kind of file', new Uint8Array(100).fill(7), CAPTURE_TYPE],
    ['another media type', encodePcap([]), 'text/plain'],
  ])('%s is refused in words', async (_, body, type) => {
    expect(await post(body, type)).toMatchObject([400, { reason: 'not-a-capture' }]);
  });

  it('cut off in the middle gives what is whole', async () => {
    const whole = encodePcap(LINES.map((line, i) => ({ atMs: START_MS + i, packet: packet(0, line) })));
    expect(await post(whole.subarray(0, whole.length - 5))).toMatchObject([200, { taken: 3, refused: 1 }]);
  });
});
