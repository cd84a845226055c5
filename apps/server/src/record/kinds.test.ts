import fc from 'fast-check';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LinkView } from '@mistpeak/contract/link';
import { encodeAprs } from '@mistpeak/core/aprs/encode';
import { anyReport } from '@mistpeak/core/aprs/testing/any-report';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { KissPeer } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, ServerUp, until } from '../testing/server-up.js';

const PATH = [{ call: 'QH1ANR', used: true }];

/** Texts that a column or a page may stumble over: NUL, broken UTF-8, quotes, marks that turn the writing direction. */
const AWKWARD = [
  '>a\0b',
  '!4903.50N/07201.75W-nul \0 here',
  ';n\0me     *092345z4903.50N/07201.75W-x',
  '}A\0B>APRS,TCPIP*:>inner \0',
  '>\xc3\x28\xff\xfe broken',
  ">'); DROP TABLE frames; --",
  '>\xe2\x80\xae turned',
  '>\\u0000 \\x00 %00',
  ':QH4MPK   :{"a": "\0"}{1',
];

describe('reports of every kind, and awkward texts', () => {
  let server: ServerUp;
  let peer: KissPeer;
  let databaseUrl: string;

  beforeAll(async () => {
    databaseUrl = await makeDatabase();
    server = await ServerUp.on(databaseUrl);
    peer = await KissPeer.listen();
    const { body } = await server.ask<LinkView>('POST', '/links', linkTo(peer.port));
    await server.ask('POST', `/links/${body.id}/open`);
    await peer.connected();
  });

  afterAll(async () => {
    await server.close();
    await peer.close();
  });

  const sampled = fc.sample(anyReport, { seed: 1987, numRuns: 300 }).map((report, i) => {
    const { info, destination = 'APZMPK' } = encodeAprs(report);
    return encodeFrame(uiFrame(`QH5A${i}`.slice(0, 6), destination, PATH, info));
  });
  const awkward = AWKWARD.map((info, i) =>
    encodeFrame(uiFrame(`QH8B${i}`, 'APZMPK', PATH, fromLatin1(info))),
  );
  const frames = [...sampled, ...awkward];

  it('are all stored as they came, none lost with its batch', async () => {
    for (const payload of frames) peer.send(toHex(encodeKiss({ port: 0, command: 'data', payload })));
    const records = await until('all frames', async () => {
      const { body } = await server.ask<FrameRecord[]>('GET', '/frames?limit=1000');
      return body.length >= frames.length ? body : undefined;
    });
    expect(records.map(({ rawHex }) => rawHex).sort()).toEqual(frames.map(toHex).sort());
  });

  it('are there after a restart, with their stations', async () => {
    await server.close();
    server = await ServerUp.on(databaseUrl);
    const page = server.follow();
    const { stations } = await page.find('snapshot');
    const words = new Map(stations.map(({ name, comment }) => [name, comment]));
    expect(words.get('QH8B0')).toBe('a·b');
    expect(words.get('A·B')).toBe('inner ·');
    expect(words.get('QH8B4')).toBe('Ã(ÿþ broken');
    expect(words.has('n·me')).toBe(true);
    page.close();
  });
});
