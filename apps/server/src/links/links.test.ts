import type { LinkView } from '@mistpeak/contract/link';
import { KissPeer } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp, type Page } from '../testing/server-up.js';

let server: ServerUp;
let page: Page;
beforeAll(async () => {
  server = await ServerUp.on(await makeDatabase());
  page = server.follow();
});
afterAll(async () => {
  page.close();
  await server.close();
});

async function openLink(settings: object): Promise<LinkView> {
  const { body } = await server.ask<LinkView>('POST', '/links', settings);
  await server.ask('POST', `/links/${body.id}/open`);
  return body;
}

describe('a link that fails says why', () => {
  it('refused: nobody listens', async () => {
    const peer = await KissPeer.listen();
    const { port } = peer;
    await peer.close();
    const { id } = await openLink(linkTo(port));
    expect(await page.find('link', (link) => link.id === id && link.phase === 'failed')).toMatchObject({
      failure: 'refused',
    });
  });

  it.each([
    ['no-such-device', '/dev/ttyNOBODY7'],
    ['not-a-serial-port', '/dev/null'],
  ])('%s: %s', async (failure, device) => {
    const { host: _host, port: _port, ...rest } = linkTo(1);
    const { id } = await openLink({ ...rest, kind: 'serial', device, speed: 9600 });
    expect(await page.find('link', (link) => link.id === id && link.phase === 'failed')).toMatchObject({
      failure,
    });
  });

  it('closed by the far end, and comes back by itself when the far end does', async () => {
    const peer = await KissPeer.listen();
    const { id } = await openLink(linkTo(peer.port));
    // The last of the settings has come: what follows it is the first of them, sent again.
    await peer.got('c00500c0');
    (await peer.connected()).destroy();
    expect(await page.find('link', (link) => link.id === id && link.phase === 'failed')).toMatchObject({
      failure: 'closed-by-peer',
      retryAtMs: expect.any(Number) as number,
    });
    const seen = page.events.length;
    await peer.connected();
    expect(await peer.got('c00500c0c0011ec0')).toBeDefined();
    expect(page.events.slice(seen).some(({ kind }) => kind === 'link')).toBe(true);
    await server.ask('POST', `/links/${id}/close`);
    await peer.close();
  });
});

describe('the settings of a link', () => {
  it('are sent again when only they change, and the wire stays', async () => {
    const peer = await KissPeer.listen();
    const { id } = await openLink(linkTo(peer.port));
    const socket = await peer.connected();
    await peer.got('c00500c0');
    await server.ask('PUT', `/links/${id}`, { ...linkTo(peer.port), txDelayMs: 500 });
    await peer.got('c00132c0');
    expect(peer.sockets).toEqual([socket]);
    expect((await server.ask('DELETE', `/links/${id}`)).status).toBe(204);
    expect((await server.ask('POST', `/links/${id}/open`)).status).toBe(404);
    await peer.close();
  });

  it('name the station that it transmits as, one of ours', async () => {
    await server.ask('PUT', '/operator', OPERATOR);
    const station = { ssid: 9, role: 'mobile', device: 'cart', symbolTable: '/', symbolCode: '>' };
    const { id: stationId } = (await server.ask<{ id: string }>('POST', '/own-stations', station)).body;
    const { body } = await server.ask<LinkView>('POST', '/links', { ...linkTo(1), stationId });
    expect(body.settings.stationId).toBe(stationId);
    const gone = '00000000-0000-4000-8000-000000000000';
    for (const [given, status] of [
      [gone, 404],
      ['cart', 400],
      [null, 200],
    ] as const)
      expect(await server.ask('PUT', `/links/${body.id}`, { ...linkTo(1), stationId: given })).toMatchObject({
        status,
      });
  });

  it('ports can be listed', async () => {
    expect((await server.ask<unknown[]>('GET', '/links/ports')).body).toEqual(expect.any(Array));
  });
});
