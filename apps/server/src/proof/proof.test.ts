import type { LinkView } from '@mistpeak/contract/link';
import { KissPeer, STAND_IN_HEX, STATUS_HEX } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp, until } from '../testing/server-up.js';

let databaseUrl: string;
let server: ServerUp;
let peer: KissPeer;
let link: LinkView;

beforeAll(async () => {
  databaseUrl = await makeDatabase();
  server = await ServerUp.on(databaseUrl);
  peer = await KissPeer.listen();
  link = (await server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
});

afterAll(async () => {
  await server.close();
  await peer.close();
});

const rungs = async (): Promise<string[]> => {
  const page = server.follow();
  const { evidence } = await page.find('snapshot');
  page.close();
  return evidence.map(({ rung }) => rung);
};

describe('evidence', () => {
  it('is recorded as it happens, with the octets that lit the rung', async () => {
    const page = server.follow();
    await page.find('snapshot');
    await server.ask('POST', `/links/${link.id}/open`);
    expect(await page.find('evidence', ({ rung }) => rung === 'port open')).toMatchObject({
      linkId: link.id,
      kind: 'link',
      words: `127.0.0.1:${peer.port} opened`,
    });
    await peer.connected();
    // Noise that looks like KISS frames proves nothing.
    peer.send('c000010203c0c00601c0');
    await page.find('frame', ({ trouble }) => trouble === 'not AX.25');
    expect(page.events.some(({ kind, data }) => kind === 'evidence' && data.rung === 'TNC talks')).toBe(
      false,
    );
    expect((await server.ask<LinkView[]>('GET', '/links')).body[0]?.phase).toBe('silent');
    peer.send(STATUS_HEX);
    expect(await page.find('evidence', ({ rung }) => rung === 'TNC talks')).toMatchObject({
      words: 'a KISS frame with a packet arrived',
    });
    expect(await page.find('evidence', ({ rung }) => rung === 'packet decoded')).toMatchObject({
      kind: 'frame',
      rawHex: STATUS_HEX.slice(4, -2),
      words: 'N0CALL-7 heard',
    });
    page.close();
  });

  it('of what every frame proves is taken once a minute', async () => {
    peer.send(STATUS_HEX + STATUS_HEX + STAND_IN_HEX);
    await until('three packets', async () =>
      (await server.ask<{ trouble?: string }[]>('GET', '/frames')).body.filter(({ trouble }) => !trouble)
        .length >= 3
        ? true
        : undefined,
    );
    expect((await rungs()).sort()).toEqual(['TNC talks', 'packet decoded', 'port open']);
  });

  it('of before an opening stands for nothing: what comes then is taken anew', async () => {
    await server.ask('POST', `/links/${link.id}/close`);
    await until('the wire let go', () => (peer.sockets.length === 0 ? true : undefined));
    await server.ask('POST', `/links/${link.id}/open`);
    await peer.connected();
    peer.send(STATUS_HEX);
    const count = async (rung: string): Promise<number> =>
      (await rungs()).filter((one) => one === rung).length;
    await until('the second decoding', async () =>
      (await count('packet decoded')) === 2 ? true : undefined,
    );
    expect([await count('port open'), await count('TNC talks')]).toEqual([2, 2]);
  });

  it('can be ticked by the operator for what only an eye sees', async () => {
    expect((await server.ask('POST', `/links/${link.id}/evidence`, { rung: 'keyed' })).status).toBe(204);
    expect(await server.ask('POST', `/links/${link.id}/evidence`, { rung: 'repeated' })).toMatchObject({
      status: 400,
      body: { reason: 'field-refused' },
    });
  });

  it('is there after a restart, in the order of time', async () => {
    await server.close();
    server = await ServerUp.on(databaseUrl);
    await until('the port open again', async () =>
      (await rungs()).filter((rung) => rung === 'port open').length === 3 ? true : undefined,
    );
    expect((await rungs()).slice(0, -2).sort()).toEqual([
      ...['TNC talks', 'TNC talks', 'packet decoded', 'packet decoded', 'port open', 'port open'],
    ]);
    expect((await rungs()).slice(-2)).toEqual(['keyed', 'port open']);
  });
});

describe('own stations', () => {
  const STATION = {
    ssid: 7,
    role: 'handheld',
    device: 'two-pin handheld',
    symbolTable: '/',
    symbolCode: '[',
  };

  it('want an operator, are added, changed and removed, and two may share an SSID', async () => {
    expect(await server.ask('POST', '/own-stations', STATION)).toMatchObject({
      status: 409,
      body: { reason: 'no-operator' },
    });
    await server.ask('PUT', '/operator', OPERATOR);
    const first = (await server.ask<{ id: string }>('POST', '/own-stations', STATION)).body;
    expect(await server.ask('POST', '/own-stations', { ...STATION, device: 'phone app' })).toMatchObject({
      body: { call: '1X9TST-7' },
    });
    expect(await server.ask('PUT', `/own-stations/${first.id}`, { ...STATION, ssid: 9 })).toMatchObject({
      body: { call: '1X9TST-9' },
    });
    await server.ask('DELETE', `/own-stations/${first.id}`);
    const page = server.follow();
    expect((await page.find('snapshot')).ownStations).toMatchObject([{ device: 'phone app', ssid: 7 }]);
    page.close();
  });

  it('of an SSID beyond 15 are refused at the field', async () => {
    expect(await server.ask('POST', '/own-stations', { ...STATION, ssid: 16 })).toMatchObject({
      status: 400,
      body: { field: 'ssid' },
    });
  });
});
