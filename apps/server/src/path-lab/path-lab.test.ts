import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { toHex } from '@mistpeak/core/bits/octets';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import type { HeardNetwork } from '@mistpeak/core/path-lab/heard-network';
import type { SiteView } from '@mistpeak/contract/path-lab';
import { BACK_FOR_MS } from '@mistpeak/contract/removals';
import { MovedServer } from '../testing/moved-server.js';
import { KissPeer } from '../testing/kiss-peer.js';
import { linkTo, until } from '../testing/server-up.js';

const rig = MovedServer.forAllTests();
const { clock } = rig;

const SITE = {
  call: 'qh1anr',
  role: 'digipeater',
  place: '29.5605 S 11.262 W',
  heightM: 15,
  powerW: 25,
  gainDbi: 3,
  note: '',
};
/** The last list that the page was told, once it looks like that. */
const sitesOnce = (fits: (sites: readonly SiteView[]) => boolean): Promise<readonly SiteView[]> =>
  until('the sites', () => {
    const told = rig.latest('sites');
    return told && fits(told) ? told : undefined;
  });

describe('stations that the operator knows', () => {
  it('are kept by call, and a form that began with an older one is refused', async () => {
    const { body } = await rig.server.ask<SiteView>('PUT', '/path-lab/sites', SITE);
    expect(body).toMatchObject({ call: 'QH1ANR', heightM: 15 });
    await sitesOnce((sites) => sites.length === 1);
    const higher = { ...SITE, heightM: 20, version: body.version };
    expect((await rig.server.ask('PUT', '/path-lab/sites', higher)).status).toBe(200);
    expect(await rig.server.ask('PUT', '/path-lab/sites', higher)).toMatchObject({ status: 409 });
  });

  it.each([
    ['heightM', 0.4],
    ['heightM', 501],
    ['powerW', 0],
    ['powerW', 1501],
    ['gainDbi', 30.1],
    ['role', 'king'],
    ['place', 'nowhere'],
    ['call', 'N0CALL'],
  ])('are refused where %s is %s', async (field, value) => {
    const { status, body } = await rig.server.ask('PUT', '/path-lab/sites', { ...SITE, [field]: value });
    expect(status).toBe(400);
    expect(body).toMatchObject({ fields: { [field]: expect.any(String) as string } });
  });

  it('come from a file all or none, what is known is replaced', async () => {
    const bad = [
      { ...SITE, call: 'QH1TOP' },
      { ...SITE, call: 'QH1BAD', powerW: -1 },
    ];
    expect((await rig.server.ask('POST', '/path-lab/sites/import', { sites: bad })).status).toBe(400);
    const good = [
      { ...SITE, call: 'QH1TOP' },
      { ...SITE, heightM: 7 },
      { ...SITE, heightM: 8 },
    ];
    const { body } = await rig.server.ask<SiteView[]>('POST', '/path-lab/sites/import', { sites: good });
    expect(body.map(({ call, heightM }) => [call, heightM])).toEqual([
      ['QH1ANR', 8],
      ['QH1TOP', 15],
    ]);
  });

  it('that are removed can be brought back for a minute', async () => {
    await rig.server.ask('DELETE', '/path-lab/sites/QH1TOP');
    await sitesOnce((sites) => sites.length === 1);
    await rig.server
      .ask('PUT', '/path-lab/sites', { ...SITE, call: 'QH1TOP', note: 'again' })
      .then(({ status }) =>
        // It is there still, and so its version counts.
        expect(status).toBe(200),
      );
    await sitesOnce((sites) => sites.length === 2);
    await rig.server.ask('DELETE', '/path-lab/sites/QH1TOP');
    clock.pass(BACK_FOR_MS);
    await sitesOnce((sites) => sites.length === 1);
    expect((await rig.server.ask('DELETE', '/path-lab/sites/QH1NONE')).status).toBe(204);
  });
});

describe('the network as the journal tells it', () => {
  it('counts who repeats whom within the hours that are asked for', async () => {
    const peer = await KissPeer.listen();
    const { body: link } = await rig.server.ask<{ id: string }>('POST', '/links', linkTo(peer.port));
    await rig.server.ask('POST', `/links/${link.id}/open`);
    await peer.connected();
    const lines = ['QH7CTA-9>APZMPK,WIDE2-1:!a', 'QH7CTA-9>APZMPK,QH1ANR,WIDE2*:!a'];
    for (const line of lines)
      peer.send(
        toHex(
          encodeKiss({ port: 0, command: 'data', payload: encodeFrame(parseMonitorText(line) as Ax25Frame) }),
        ),
      );
    // What is no frame is no part of it.
    peer.send('c0 00 01 02 c0');
    const network = async (query = ''): Promise<HeardNetwork> =>
      (await rig.server.ask<HeardNetwork>('GET', `/path-lab/network${query}`)).body;
    await until('both stored', async () => (await network()).repeaters.length === 1);
    const { sources, repeaters } = await network();
    expect(sources).toMatchObject([{ call: 'QH7CTA-9', packets: 1, direct: 1 }]);
    expect(repeaters).toMatchObject([{ call: 'QH1ANR', count: 1, from: { 'QH7CTA-9': 1 } }]);
    clock.sleep(2 * 3_600_000);
    expect((await network('?hours=1')).sources).toEqual([]);
    expect((await network('?hours=3')).sources).toHaveLength(1);
    expect((await rig.server.ask('GET', '/path-lab/network?hours=0')).status).toBe(400);
    expect((await rig.server.ask('GET', '/path-lab/network?hours=721')).status).toBe(400);
    await peer.close();
  });
});
