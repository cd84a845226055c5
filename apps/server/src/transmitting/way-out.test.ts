import { connect, type Socket } from 'node:net';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { HealthView } from '@mistpeak/contract/health';
import type { LinkView } from '@mistpeak/contract/link';
import { LEASE_MS } from '../database/ownership.js';
import { DatabaseProxy } from '../testing/database-proxy.js';
import { freePort } from '../testing/free-port.js';
import { KissPeer } from '../testing/kiss-peer.js';
import { MovedClock } from '../testing/moved-clock.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

/** From 1X9TST-5 to APZMPK, UI, no path, in a KISS data frame for that port. */
const frame = (text: string, port = 0): string =>
  `c0${port}0` + `82a0b49aa096e062b072a8a6a86b03f0${Buffer.from(`>${text}`).toString('hex')}c0`;

let clock: MovedClock;
let proxy: DatabaseProxy;
let databaseUrl: string;
let server: ServerUp;
let peer: KissPeer;
let link: LinkView;
let program: Socket;

const send = (...frames: string[]) => program.write(Buffer.from(frames.join(''), 'hex'));
const health = async () => (await server.ask<HealthView>('GET', '/health')).body.database;
const recorded = async () =>
  (await server.ask<FrameRecord[]>('GET', '/frames?limit=100')).body.filter(
    ({ direction }) => direction === 'sent',
  );

beforeAll(async () => {
  clock = new MovedClock();
  databaseUrl = await makeDatabase();
  proxy = await DatabaseProxy.to(databaseUrl);
  server = await ServerUp.on(proxy.url, { clock });
  peer = await KissPeer.listen();
  await server.ask('PUT', '/operator', OPERATOR);
  link = (await server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
  await server.ask('POST', `/links/${link.id}/open`);
  await peer.got('c00500c0');
  const port = await freePort();
  await server.ask('PUT', `/links/${link.id}/sharing`, {
    isOn: true,
    port,
    reach: 'loopback',
    isReachConfirmed: false,
    isAnnounced: false,
    newMayTransmit: true,
  });
  program = connect(port, '127.0.0.1');
  await server.ask('PUT', `/links/${link.id}/lock`, { call: `${TEST_CALL}-7` });
});

afterAll(async () => {
  program.destroy();
  await server.close();
  await peer.close();
  await proxy.cut();
});

it('a window of a program leaves together, each frame by its port, and the record keeps the port', async () => {
  send(frame('w1', 3), frame('w2', 3), frame('w3'));
  // In one over: nothing moves the clock.
  await peer.got(frame('w1', 3) + frame('w2', 3) + frame('w3'));
  const sent = await until('the record', async () => {
    const all = await recorded();
    return all.length === 3 ? all : undefined;
  });
  expect(sent.map(({ port }) => port)).toEqual([3, 3, 0]);
});

it('the only server goes on sending while the database is away, and what it sent is written when it is back', async () => {
  await proxy.cut();
  await until('the outage', async () => ((await health()) === 'away' ? true : undefined));
  clock.pass(2 * LEASE_MS);
  send(frame('away'));
  await peer.got(frame('away'));
  // A command would have to be remembered first: it is refused.
  expect(await server.ask('PUT', `/links/${link.id}/lock`, { call: `${TEST_CALL}-7` })).toMatchObject({
    status: 503,
  });
  await proxy.mend();
  await until('the record', async () =>
    (await health()) === 'here' && (await recorded()).length === 4 ? true : undefined,
  );
  const page = server.follow();
  const { transmissions } = await page.find('snapshot');
  expect(transmissions.map(({ state }) => state)).toEqual(Array(4).fill('handed'));
  page.close();
});

it('one of two servers goes on for ten seconds, and sends nothing after', async () => {
  const other = await ServerUp.on(databaseUrl, { clock });
  // It is seen at the next look.
  await new Promise((resolve) => setTimeout(resolve, 2500));
  await proxy.cut();
  await until('the outage', async () => ((await health()) === 'away' ? true : undefined));
  send(frame('in time'));
  clock.pass(2000);
  await peer.got(frame('in time'));
  clock.pass(LEASE_MS);
  send(frame('too late'));
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(peer.hasGot(frame('too late'))).toBe(false);
  await other.close();
});
