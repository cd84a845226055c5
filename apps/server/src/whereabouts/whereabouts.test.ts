import { createServer, type AddressInfo, type Socket } from 'node:net';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { toHex } from '@mistpeak/core/bits/octets';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import type { LinkView } from '@mistpeak/contract/link';
import { BACK_FOR_MS } from '@mistpeak/contract/removals';
import type { PlaceLabelView, PlaceYield, WhereaboutsView } from '@mistpeak/contract/whereabouts';
import { KissPeer } from '../testing/kiss-peer.js';
import { MovedServer } from '../testing/moved-server.js';
import { linkTo, until } from '../testing/server-up.js';

const rig = MovedServer.forAllTests();
const { clock } = rig;

const view = (): WhereaboutsView | undefined => rig.latest('whereabouts');
const viewOnce = (fits: (view: WhereaboutsView) => boolean): Promise<WhereaboutsView> =>
  until('the whereabouts', () => {
    const now = view();
    return now && fits(now) ? now : undefined;
  });

describe('a receiver', () => {
  const sockets: Socket[] = [];
  let asked = '';
  const receiver = createServer((socket) => {
    sockets.push(socket);
    socket.on('data', (octets: Buffer) => (asked += octets.toString()));
    socket.on('error', () => undefined);
  });
  beforeAll(() => new Promise<void>((resolve) => void receiver.listen(0, '127.0.0.1', resolve)));
  afterAll(() => {
    sockets.forEach((socket) => socket.destroy());
    receiver.close();
  });
  const socket = (count: number): Promise<Socket> => until('a connection', () => sockets[count - 1]);

  it('of the network is asked for its reports and read, in either language', async () => {
    const { port } = receiver.address() as AddressInfo;
    await rig.server.ask('PUT', '/whereabouts/receiver', { kind: 'network', host: '127.0.0.1', port });
    await viewOnce(({ state }) => state === 'silent');
    const wire = await socket(1);
    await until('the question', () => asked.includes('?WATCH=') || undefined);
    wire.write('{"class":"VERSION"}\n{"class":"TPV","mode":3,"lat":-29.6,"lon":-11.4,"sp');
    wire.write('eed":2,"track":45}\n');
    expect(await viewOnce(({ state }) => state === 'telling')).toMatchObject({
      fix: {
        by: 'receiver',
        position: { latitudeDeg: -29.6, longitudeDeg: -11.4 },
        speedMps: 2,
        courseDeg: 45,
      },
    });
    clock.pass(5000);
    // NMEA 0183; the checksum by its rule.
    wire.write('$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47\r\n');
    await viewOnce(({ fix }) => (fix?.position.latitudeDeg ?? 0) > 48);
    expect(view()?.fix).toMatchObject({ altitudeM: 545.4, speedMps: 2 });
  });

  it('that hangs up is told of, and taken again after a while', async () => {
    (await socket(1)).destroy();
    await viewOnce(({ state, trouble }) => state === 'failed' && trouble !== undefined);
    expect(view()?.fix).toBeDefined();
    clock.pass(2000);
    await socket(2);
    await viewOnce(({ state }) => state === 'silent');
  });

  it('is chosen from one form at a time, and can be none', async () => {
    const { version } = (view() as WhereaboutsView).receiver;
    expect(
      (await rig.server.ask('PUT', '/whereabouts/receiver', { kind: 'none', version: version - 1 })).status,
    ).toBe(409);
    expect((await rig.server.ask('PUT', '/whereabouts/receiver', { kind: 'none', version })).status).toBe(
      200,
    );
    await viewOnce(({ state }) => state === 'none');
    await until('it hung up', () => sockets[1]?.destroyed || sockets[1]?.readableEnded || undefined);
  });

  it.each([
    [{ kind: 'serial', device: '/etc/passwd', speed: 4800 }],
    [{ kind: 'serial', device: '/dev/ttyUSB0', speed: 1199 }],
    [{ kind: 'network', host: '127.0.0.1', port: 0 }],
    [{ kind: 'network', host: 'no host', port: 2947 }],
    [{ kind: 'telepathy' }],
  ])('as %j is refused', async (settings) =>
    expect((await rig.server.ask('PUT', '/whereabouts/receiver', settings)).status).toBe(400),
  );

  it('that is not there is tried again', async () => {
    const version = view()?.receiver.version;
    await rig.server.ask('PUT', '/whereabouts/receiver', {
      kind: 'serial',
      device: '/dev/ttyNOBODY9',
      speed: 4800,
      version,
    });
    await viewOnce(({ state, trouble }) => state === 'failed' && trouble === 'no-such-device');
  });
});

describe('a page', () => {
  it('tells where its device is, and takes the place of the receiver’s last word', async () => {
    const at = { latitudeDeg: -29.61, longitudeDeg: -11.41 };
    expect((await rig.server.ask('POST', '/whereabouts/page', at)).status).toBe(204);
    expect(await viewOnce(({ fix }) => fix?.by === 'page')).toMatchObject({ fix: { position: at } });
    expect(view()?.fix?.speedMps).toBeUndefined();
    expect((await rig.server.ask('POST', '/whereabouts/page', { ...at, latitudeDeg: 91 })).status).toBe(400);
    expect((await rig.server.ask('POST', '/whereabouts/page', { ...at, courseDeg: 361 })).status).toBe(400);
  });
});

describe('places with names', () => {
  const places = (): readonly PlaceLabelView[] => rig.latest('places') ?? [];
  const placesOnce = (words: string): Promise<unknown> =>
    until(
      words,
      () =>
        places()
          .map(({ name, isHere }) => `${name}${isHere ? ' here' : ''}`)
          .join() === words,
    );
  const add = async (name: string): Promise<string> =>
    (await rig.server.ask<PlaceLabelView>('POST', '/places', { name, place: '29.6 S 11.4 W', radiusM: 200 }))
      .body.id;

  it('have their own yield of what was heard while one was there', async () => {
    const peer = await KissPeer.listen();
    const link = (await rig.server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
    await rig.server.ask('POST', `/links/${link.id}/open`);
    await peer.connected();
    const hear = (line: string): void =>
      peer.send(
        toHex(
          encodeKiss({ port: 0, command: 'data', payload: encodeFrame(parseMonitorText(line) as Ax25Frame) }),
        ),
      );
    const [hut, crag] = [await add('hut'), await add('crag')];
    await placesOnce('crag,hut');
    await rig.server.ask('POST', `/places/${hut}/visits`);
    await placesOnce('crag,hut here');
    hear('QH7CTA-9>APZMPK:!2936.00S/01130.00Wk');
    hear('QH7CTB-9>APZMPK,QH1ANR,WIDE2*:!2900.00S/01130.00Wk');
    await until('both stored', async () =>
      (await yields()).find(({ id }) => id === hut)?.packets === 2 ? true : undefined,
    );
    clock.pass(30 * 60_000);
    await rig.server.ask('POST', `/places/${crag}/visits`);
    await placesOnce('crag here,hut');
    hear('QH7CTC-9>APZMPK:!2936.00S/01130.00Wk');
    await until('the third', async () =>
      (await yields()).find(({ id }) => id === crag)?.packets === 1 ? true : undefined,
    );
    await rig.server.ask('POST', `/places/${crag}/leave`);
    await placesOnce('crag,hut');
    const [ofHut] = (await yields()).filter(({ id }) => id === hut);
    expect(ofHut).toMatchObject({ packets: 2, stations: 2, hours: expect.closeTo(0.5, 1) as number });
    // From 11.4 to 11.5 degrees W at 29.6 S, 9.7 km; the one by a digipeater does not count.
    expect(ofHut?.farthest).toMatchObject({ call: 'QH7CTA-9', km: expect.closeTo(9.69, 1) as number });
    await peer.close();
  });

  const yields = async (): Promise<PlaceYield[]> =>
    (await rig.server.ask<PlaceYield[]>('GET', '/places/yields')).body;

  it('can be renamed, removed and brought back', async () => {
    const [place] = places() as [PlaceLabelView];
    await rig.server.ask('PUT', `/places/${place.id}`, { name: 'the crag', place: place.place, radiusM: 20 });
    await placesOnce('hut,the crag');
    expect(
      (await rig.server.ask('PUT', `/places/${place.id}`, { name: 'x', place: place.place, radiusM: 19 }))
        .status,
    ).toBe(400);
    await rig.server.ask('DELETE', `/places/${place.id}`);
    await placesOnce('hut');
    clock.pass(BACK_FOR_MS);
    await until('it is gone', async () => ((await yields()).length === 1 ? true : undefined));
    expect((await rig.server.ask('POST', `/places/${place.id}/visits`)).status).toBe(404);
  });
});
