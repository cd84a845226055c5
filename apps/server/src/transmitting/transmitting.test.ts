import { randomUUID } from 'node:crypto';
import type { LinkView } from '@mistpeak/contract/link';
import { KissPeer, STAND_IN_HEX } from '../testing/kiss-peer.js';
import { BEACON, linkTo, makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

/** The beacon of these tests octet by octet: to APZMPK (command), from 1X9TST-7, two digipeaters, UI, F0, info. */
const BEACON_HEX = `82a0b49aa096e062b072a8a6a86eae92888a624062ae92888a64406303f0${Buffer.from('!2937.92S/01124.30W-test').toString('hex')}`;
/** The same come back from QH1ANR, which used up WIDE1-1. */
const ECHO_HEX = `82a0b49aa096e062b072a8a6a86ea29062829ca4e0ae92888a62 40e0ae92888a64406303f0${BEACON_HEX.slice(60)}`;

let databaseUrl: string;
let server: ServerUp;
let peer: KissPeer;
let link: LinkView;

const send = (id: string = randomUUID()) =>
  server.ask('POST', '/beacon/transmissions', { id, linkId: link.id });
const arm = (call: string) => server.ask('PUT', `/links/${link.id}/lock`, { call, instead: true });
const refused = (reason: string) => ({ status: 409, body: { reason } });

beforeAll(async () => {
  databaseUrl = await makeDatabase();
  server = await ServerUp.on(databaseUrl);
  peer = await KissPeer.listen();
});

afterAll(async () => {
  await server.close();
  await peer.close();
});

describe('nothing is sent', () => {
  it('without an operator, a beacon, an open link, an armed lock', async () => {
    link = (await server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
    expect(await arm(TEST_CALL)).toMatchObject(refused('no-operator'));
    await server.ask('PUT', '/operator', OPERATOR);
    expect(await send()).toMatchObject(refused('no-beacon'));
    expect(await server.ask('PUT', '/beacon', BEACON)).toMatchObject({ status: 200 });
    expect(await send()).toMatchObject(refused('link-not-open'));
    await server.ask('POST', `/links/${link.id}/open`);
    await peer.got('c00500c0');
    expect(await send()).toMatchObject(refused('not-armed'));
  });

  it.each([
    ['QH7CTC-9', 'foreign-call', 409],
    ['N0CALL', 'field-refused', 400],
    ['not a call', 'field-refused', 400],
  ])('by arming with %s', async (call, reason, status) => {
    expect(await arm(call)).toMatchObject({ status, body: { reason } });
  });

  it('with another call than the armed one', async () => {
    await arm(`${TEST_CALL}-9`);
    expect(await send()).toMatchObject(refused('armed-for-another-call'));
  });

  it('and not one octet of a frame was on the wire', () => expect(peer.hasGot('c000')).toBe(false));
});

describe('an armed beacon', () => {
  const id = randomUUID();

  it('goes out once, octet by octet, however often it is asked for', async () => {
    expect(await arm(`${TEST_CALL}-7`)).toMatchObject({
      status: 200,
      body: { armed: true, call: `${TEST_CALL}-7` },
    });
    // Two at the same moment, as from an impatient finger.
    for (const answer of await Promise.all([send(id), send(id)]))
      expect(answer).toMatchObject({ status: 200, body: { rawHex: BEACON_HEX } });
    expect(await send(id)).toMatchObject({ status: 200, body: { state: 'handed' } });
    const wire = await peer.got(`c000${BEACON_HEX}c0`);
    expect(wire.split('c00082').length - 1).toBe(1);
  });

  it('come back is an echo, told by whom, once', async () => {
    const page = server.follow();
    await page.find('snapshot');
    peer.send(`c000${ECHO_HEX}c0 c000${ECHO_HEX}c0`);
    const sent = await page.find('transmission', (one) => one.id === id && one.echoes.length > 0);
    expect(sent.echoes).toEqual([{ by: 'QH1ANR', afterMs: expect.any(Number) as number }]);
    page.close();
  });

  it('is recorded with its echo after a restart, and the lock is shut', async () => {
    await server.close();
    server = await ServerUp.on(databaseUrl);
    const page = server.follow();
    const { transmissions, frames, locks } = await page.find('snapshot');
    expect(transmissions).toMatchObject([{ id, state: 'handed', echoes: [{ by: 'QH1ANR' }] }]);
    expect(frames.filter(({ direction }) => direction === 'sent')).toHaveLength(1);
    expect(locks.filter(({ armed }) => armed)).toEqual([]);
    await until('an open link', async () => ((await send()).body.reason === 'not-armed' ? true : undefined));
    page.close();
  });
});

describe('a demo call', () => {
  const DEMO = { ...BEACON, source: 'QH4MPK-7' };

  beforeAll(async () => {
    await server.ask('PUT', '/operator', { ...OPERATOR, call: 'QH4MPK' });
    await server.ask('PUT', '/beacon', DEMO);
  });

  it('is not armed on a link that has not said that it is a stand-in', async () => {
    expect(await arm('QH4MPK-7')).toMatchObject(refused('demo-call-on-a-real-link'));
  });

  it('is sent to a stand-in', async () => {
    peer.send(STAND_IN_HEX);
    await until('a stand-in', async () =>
      (await server.ask<LinkView[]>('GET', '/links')).body[0]?.standIn ? true : undefined,
    );
    expect(await arm('QH4MPK-7')).toMatchObject({ status: 200 });
    expect(await send()).toMatchObject({ status: 200, body: { state: 'handed' } });
  });

  it('is refused again when another far end takes the stand-in’s place', async () => {
    const socket = await peer.connected();
    socket.destroy();
    await until('a new connection', () =>
      peer.sockets.length > 0 && peer.sockets[0] !== socket ? true : undefined,
    );
    const answer = await until('an open link', async () => {
      const one = await send();
      return one.body.reason === 'link-not-open' ? undefined : one;
    });
    expect(answer).toMatchObject(refused('demo-call-on-a-real-link'));
  });
});
