import type { LinkView } from '@mistpeak/contract/link';
import { KissPeer, STAND_IN_HEX, STATUS_HEX } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp, until } from '../testing/server-up.js';

jest.setTimeout(60_000);

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
    peer.send(STATUS_HEX);
    expect(await page.find('evidence', ({ rung }) => rung === 'TNC talks')).toMatchObject({
      words: 'a KISS frame arrived',
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
    await until('three frames', async () =>
      (await server.ask<unknown[]>('GET', '/frames')).body.length >= 3 ? true : undefined,
    );
    expect((await rungs()).sort()).toEqual(['TNC talks', 'packet decoded', 'port open']);
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
      (await rungs()).filter((rung) => rung === 'port open').length === 2 ? true : undefined,
    );
    expect(await rungs()).toEqual(['port open', 'TNC talks', 'packet decoded', 'keyed', 'port open']);
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
