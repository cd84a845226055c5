import { decodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { fromHex } from '@mistpeak/core/bits/octets';
import { parseAprs } from '@mistpeak/core/aprs/parse';
import type { AprsReport } from '@mistpeak/core/aprs/report';
import type { BeaconView, TransmissionView } from '@mistpeak/contract/beacon';
import type { BeaconWayView } from '@mistpeak/contract/beacon-ways';
import type { LinkView } from '@mistpeak/contract/link';
import { BACK_FOR_MS } from '@mistpeak/contract/removals';
import { LOOK_AGAIN_MS } from '@mistpeak/core/beacon/schedule';
import { KissPeer } from '../testing/kiss-peer.js';
import { MovedClock } from '../testing/moved-clock.js';
import { BEACON, linkTo, makeDatabase, OPERATOR, ServerUp, until, type Page } from '../testing/server-up.js';

const MINUTE_MS = 60_000;
const clock = new MovedClock();
let database: string;
let server: ServerUp;
let page: Page;
let peer: KissPeer;
let link: LinkView;

beforeAll(async () => {
  database = await makeDatabase();
  server = await ServerUp.on(database, { clock });
  page = server.follow();
  await server.ask('PUT', '/operator', OPERATOR);
  peer = await KissPeer.listen();
  link = (await server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
  await server.ask('POST', `/links/${link.id}/open`);
  await peer.connected();
});
afterAll(async () => {
  page.close();
  await server.close();
  await peer.close();
});

const arm = (): Promise<unknown> => server.ask('PUT', `/links/${link.id}/lock`, { call: BEACON.source });
const settings = (more: object = {}): object => ({
  linkId: link.id,
  source: BEACON.source,
  plan: { kind: 'interval', everyMs: 5 * MINUTE_MS },
  position: 'fixed',
  leastGapS: 15,
  jitterS: 0,
  busyAbovePercent: 100,
  isOn: true,
  ...more,
});
const ways = (): readonly BeaconWayView[] =>
  (page.events.findLast(({ kind }) => kind === 'beacon-ways')?.data ?? []) as readonly BeaconWayView[];
const wayOnce = (fits: (way: BeaconWayView) => boolean): Promise<BeaconWayView> =>
  until('the way', () => ways().find(fits));
const sent = async (): Promise<TransmissionView[]> =>
  (await server.ask<TransmissionView[]>('GET', '/beacon/proof')).body;
const sentOnce = (count: number): Promise<TransmissionView[]> =>
  until(`${count} beacons`, async () => {
    const all = await sent();
    return all.length === count ? all : undefined;
  });
const reportOf = ({ rawHex }: TransmissionView): AprsReport => {
  const frame = decodeFrame(fromHex(rawHex) as Uint8Array) as Ax25Frame;
  return parseAprs(frame.info, frame.destination);
};

describe('beacons that leave by a plan', () => {
  let way: BeaconWayView;

  it('need a saved beacon of that call', async () => {
    expect(await server.ask('POST', '/beacon/ways', settings())).toMatchObject({
      body: { reason: 'no-beacon' },
    });
    await server.ask('PUT', '/beacon', BEACON);
    expect((await server.ask('POST', '/beacon/ways', settings({ leastGapS: 14 }))).status).toBe(400);
    expect(
      (await server.ask('POST', '/beacon/ways', settings({ plan: { kind: 'interval', everyMs: 1 } }))).status,
    ).toBe(400);
  });

  it('wait for the lock, then go out by their interval', async () => {
    way = (await server.ask<BeaconWayView>('POST', '/beacon/ways', settings())).body;
    await wayOnce(({ waitsFor }) => waitsFor === 'lock');
    expect(await sent()).toEqual([]);
    await arm();
    clock.pass(LOOK_AGAIN_MS);
    await sentOnce(1);
    await wayOnce(({ sent: count, nextAtMs }) => count === 1 && nextAtMs !== undefined);
    clock.pass(5 * MINUTE_MS - 2000);
    expect(await sent()).toHaveLength(1);
    clock.pass(4000);
    await sentOnce(2);
    expect(reportOf((await sent())[0] as TransmissionView)).toMatchObject({
      type: 'position',
      symbol: { table: '/', code: BEACON.symbolCode },
    });
  });

  it('by a test interval for a while, which turns itself back', async () => {
    const { body } = await server.ask<BeaconWayView>('POST', `/beacon/ways/${way.id}/test`, {
      everyS: 30,
      forS: 120,
    });
    expect(body.test?.everyS).toBe(30);
    for (let i = 0; i < 3; i++) {
      clock.pass(31_000);
      await sentOnce(3 + i);
    }
    clock.pass(31_000);
    await wayOnce(({ test }) => test === undefined);
    clock.pass(60_000);
    expect(await sent()).toHaveLength(5);
    expect((await server.ask('POST', `/beacon/ways/${way.id}/test`, { everyS: 14, forS: 60 })).status).toBe(
      400,
    );
  });

  it('stay on over a restart, and wait for the lock again', async () => {
    await server.close();
    page.close();
    server = await ServerUp.on(database, { clock });
    page = server.follow();
    await page.find('snapshot', ({ beaconWays }) => beaconWays[0]?.isOn === true && beaconWays[0].sent === 5);
    await until('the link', async () => {
      const [one] = (await server.ask<LinkView[]>('GET', '/links')).body;
      return one?.phase === 'silent' || one?.phase === 'hearing' ? true : undefined;
    });
    clock.pass(5 * MINUTE_MS);
    await wayOnce(({ waitsFor }) => waitsFor === 'lock');
    expect(await sent()).toHaveLength(5);
    await arm();
    clock.pass(LOOK_AGAIN_MS);
    await sentOnce(6);
  });

  it('stop after so many, and a form that began with an older one is refused', async () => {
    const [now] = (await page.find('beacon-ways', (all) => all[0]?.sent === 6)) as [BeaconWayView];
    const once = settings({ stopAfter: 1, isOn: false, version: now.version });
    const off = (await server.ask<BeaconWayView>('PUT', `/beacon/ways/${way.id}`, once)).body;
    expect(off.isOn).toBe(false);
    expect((await server.ask('PUT', `/beacon/ways/${way.id}`, once)).status).toBe(409);
    clock.pass(10 * MINUTE_MS);
    expect(await sent()).toHaveLength(6);
    await server.ask('PUT', `/beacon/ways/${way.id}`, settings({ stopAfter: 1, version: off.version }));
    clock.pass(LOOK_AGAIN_MS);
    await sentOnce(7);
    await wayOnce(({ isOn }) => !isOn);
  });

  it('by the device follow what a page tells, with course and speed', async () => {
    const moving = settings({
      position: 'device',
      plan: { kind: 'distance', everyM: 1000, longestMs: 60 * MINUTE_MS },
    });
    const { id } = (await server.ask<BeaconWayView>('POST', '/beacon/ways', moving)).body;
    await wayOnce((one) => one.id === id && one.waitsFor === 'position');
    const tell = (latitudeDeg: number): Promise<unknown> =>
      server.ask('POST', '/whereabouts/page', {
        latitudeDeg,
        longitudeDeg: -11.4,
        speedMps: 10,
        courseDeg: 90,
      });
    await tell(-29.6);
    await sentOnce(8);
    clock.pass(MINUTE_MS);
    await tell(-29.605);
    await tell(-29.62);
    const [last] = await sentOnce(9);
    expect(reportOf(last as TransmissionView).latitudeDeg).toBeCloseTo(-29.62, 3);
    expect(reportOf(last as TransmissionView)).toMatchObject({ courseDeg: 90 });
    expect((await server.ask('DELETE', `/beacon/ways/${id}`)).status).toBe(204);
    clock.pass(MINUTE_MS);
    await tell(-29.7);
    clock.pass(BACK_FOR_MS);
    expect(await sent()).toHaveLength(9);
    await until('it is gone', () => ways().every((one) => one.id !== id));
  });
});

describe('a voice frequency', () => {
  const info = async (): Promise<AprsReport> => {
    clock.pass(MINUTE_MS);
    return reportOf(
      (await server.ask<TransmissionView>('POST', '/beacon/transmissions', { linkId: link.id })).body,
    );
  };

  it('stands in the beacon, and is left out when it is an hour old on the move; one tap gives it anew', async () => {
    await arm();
    const { body } = await server.ask<BeaconView>('PUT', '/beacon/frequency', { frequency: '145.500MHz' });
    expect(body).toMatchObject({ frequency: '145.500MHz' });
    expect((await info()).frequency).toEqual({ frequencyMHz: 145.5 });
    clock.pass(60 * MINUTE_MS);
    await page.find('beacon', ({ frequencyStale }) => frequencyStale === 'an hour old');
    await arm();
    expect((await info()).frequency).toBeUndefined();
    await server.ask('PUT', '/beacon/frequency', { frequency: '145.500MHz' });
    expect((await info()).frequency).toEqual({ frequencyMHz: 145.5 });
    expect((await server.ask('PUT', '/beacon/frequency', { frequency: 'loud' })).status).toBe(400);
  });
});
