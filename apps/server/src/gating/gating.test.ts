import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import type { FillInPreview, Gating, GatingView } from '@mistpeak/contract/gating';
import type { InternetView } from '@mistpeak/contract/internet';
import { InternetPeer } from '../testing/internet-peer.js';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { OPERATOR, TEST_CALL, until } from '../testing/server-up.js';

const clock = new MovedClock();
const bench = linkedBench({ clock });
const ME = `${TEST_CALL}-1`;
let peer: InternetPeer;

const view = async (): Promise<GatingView> => (await bench.server.ask<GatingView>('GET', '/gating')).body;
const choose = async (more: object = {}): Promise<{ status: number; body: Record<string, unknown> }> =>
  bench.server.ask('PUT', '/gating/settings', {
    linkId: bench.link.id,
    receiveGate: false,
    transmitGate: false,
    allowsAutomatic: false,
    mostPerMinute: 2,
    fillIn: false,
    isViscous: false,
    sharePercent: 1,
    ...(await view()).settings,
    ...more,
  });
const arm = (): Promise<unknown> => bench.server.ask('PUT', `/links/${bench.link.id}/lock`, { call: ME });
const disarm = (): Promise<unknown> => bench.server.ask('DELETE', `/links/${bench.link.id}/lock`);
const hear = (source: string, path: string, info: string): void => {
  const hops =
    path === ''
      ? []
      : path.split(',').map((entry) => ({ call: entry.replace('*', ''), used: entry.endsWith('*') }));
  bench.peer.send(`c000${toHex(encodeFrame(uiFrame(source, 'APZMPK', hops, fromLatin1(info))))}c0`);
};
const countOnce = (gating: Gating, reason: string | undefined, count = 1): Promise<true> =>
  until(`${gating}: ${reason ?? 'passed'}`, async () => {
    const { passed, refused } = (await view()).counts[gating];
    return (reason === undefined ? passed : (refused[reason] ?? 0)) >= count ? true : undefined;
  });
const hexOf = (text: string): string => Buffer.from(text, 'latin1').toString('hex');
const timesSent = (text: string): number => bench.peer.everything().split(hexOf(text)).length - 1;

beforeAll(async () => {
  peer = await InternetPeer.listen();
  await bench.server.ask('PUT', '/operator', OPERATOR);
  await bench.server.ask('PUT', '/internet/settings', {
    isOn: true,
    host: '127.0.0.1',
    port: peer.port,
    call: `${TEST_CALL}-10`,
    isVerified: true,
    filter: '',
    sends: false,
  });
  await peer.got('user ');
  peer.take();
  peer.say(`# logresp ${TEST_CALL}-10 verified, server TEST1\r\n`);
  await until(
    'the login',
    async () => (await bench.server.ask<InternetView>('GET', '/internet')).body.phase === 'in',
  );
});
afterAll(() => peer.close());

it('all of it is off, and what sends by itself wants a word on local rules', async () => {
  hear('1X9CRT-9', 'WIDE1-1', '>before');
  expect((await view()).decisions).toEqual([]);
  for (const more of [{ fillIn: true }, { transmitGate: true }])
    expect(await choose(more)).toMatchObject({ status: 400, body: { field: 'allowsAutomatic' } });
  expect((await choose({ mostPerMinute: 0 })).status).toBe(400);
  expect((await choose({ sharePercent: 21 })).status).toBe(400);
  expect((await view()).settings).toBeUndefined();
});

describe('the receive gate', () => {
  it('passes what it hears, octet by octet, once; what may not pass is counted by reason', async () => {
    expect((await choose({ receiveGate: true })).status).toBe(200);
    hear('1X9CRT-9', '1X9DIG*,WIDE2-1', '>hi \u00ff');
    // Public description of gates: receive-only, so qAO, with the gate behind it.
    expect(await peer.got('\r\n')).toBe('1X9CRT-9>APZMPK,1X9DIG*,WIDE2-1,qAO,1X9TST-10:>hi \u00ff\r\n');
    hear('1X9CRT-9', '1X9OTH*,WIDE2*', '>hi \u00ff');
    hear('1X9CRT-9', 'NOGATE', '>no');
    hear('1X9CRT-9', '', '?APRS?');
    hear('1X9GTE-10', '', '}1X9FAR>APRS,TCPIP,1X9GTE-10*:>far');
    await countOnce('to the internet', 'it came from the internet (TCPIP)');
    const { passed, refused } = (await view()).counts['to the internet'];
    expect([passed, refused]).toEqual([
      1,
      {
        'a copy of what was passed on': 1,
        'its sender does not want it (NOGATE)': 1,
        'a query to all': 1,
        'it came from the internet (TCPIP)': 1,
      },
    ]);
    expect((await view()).decisions[0]).toMatchObject({ gating: 'to the internet', source: '1X9GTE-10' });
  });

  it('a demo call does not leave the stand-ins, and without a server nothing passes', async () => {
    hear('QH7CTA-9', '', '>demo');
    await countOnce('to the internet', 'a demo call stays with stand-ins');
    peer.hangUp();
    await until(
      'apart',
      async () => (await bench.server.ask<InternetView>('GET', '/internet')).body.phase === 'apart',
    );
    hear('1X9CRT-9', '', '>alone');
    await countOnce('to the internet', 'not connected, or not verified');
    clock.pass(7000);
    await peer.got('user ');
    peer.say(`# logresp ${TEST_CALL}-10 verified, server TEST1\r\n`);
    await until(
      'in',
      async () => (await bench.server.ask<InternetView>('GET', '/internet')).body.phase === 'in',
    );
  });
});

describe('the transmit gate', () => {
  const say = (text: string, from = '1X9FAR'): void => peer.say(`${from}>APRS,TCPIP*,qAC,TEST1:${text}\r\n`);

  it('puts a message on the air for who was heard near, as a third-party packet, behind the lock', async () => {
    await choose({ transmitGate: true, allowsAutomatic: true });
    say(':1X9CRT-9 :locked{1');
    await countOnce('to radio', 'the transmitter is locked');
    await arm();
    say(':1X9NOT-9 :nobody{1');
    await countOnce('to radio', 'its addressee was not heard on radio lately');
    say(':1X9CRT-9 :come home{1');
    await countOnce('to radio', undefined);
    expect(timesSent('}1X9FAR>APRS,TCPIP,1X9TST-1*::1X9CRT-9 :come home{1')).toBe(1);
    expect(timesSent('locked') + timesSent('nobody')).toBe(0);
  });

  it('the sender’s next position follows, once; no more than so many a minute', async () => {
    clock.pass(61_000);
    say('!2937.92S/01124.30W-');
    await countOnce('to radio', undefined, 2);
    expect(timesSent('}1X9FAR>APRS,TCPIP,1X9TST-1*:!2937')).toBe(1);
    say('!2937.93S/01124.30W-');
    say(':1X9CRT-9 :second{2', '1X9FR2');
    await countOnce('to radio', undefined, 3);
    say(':1X9CRT-9 :third{3', '1X9FR3');
    await countOnce('to radio', 'too many in this minute');
    expect(timesSent('2937.93S')).toBe(0);
    clock.pass(60_000);
    say(':1X9CRT-9 :fourth{4', '1X9FR4');
    await countOnce('to radio', undefined, 4);
    say('>status of somebody', '1X9FR5');
    await choose({ transmitGate: false });
    say(':1X9CRT-9 :off{5', '1X9FR6');
    peer.say('# end\r\n');
    expect(timesSent('off{5')).toBe(0);
  });
});

describe('the fill-in', () => {
  it('repeats the first hop with its own call, once, and not what another served', async () => {
    await choose({ receiveGate: false, fillIn: true, allowsAutomatic: true });
    await arm();
    hear('1X9CRT-9', 'WIDE1-1,WIDE2-1', '>fill');
    hear('1X9CRT-9', 'WIDE1-1,WIDE2-1', '>fill');
    hear('1X9CRT-9', '1X9DIG*,WIDE1*,WIDE2-1', '>other');
    await countOnce('repeated', undefined);
    await countOnce('repeated', 'fill-in serves the first hop only');
    // APZMPK, 1X9CRT-9, 1X9TST-1 used, WIDE2-1 (New n-N paradigm: a fill-in puts its call in the place of WIDE1-1).
    await bench.peer.got(`82a0b49aa096e062b07286a4a87262b072a8a6a8e2ae92888a64406303f0${hexOf('>fill')}`);
    expect((await view()).counts.repeated).toEqual({
      passed: 1,
      refused: { 'a copy of what was repeated': 1, 'fill-in serves the first hop only': 1 },
    });
  });

  it('keeps to its share of the channel, and is silent behind a shut lock', async () => {
    // One in a hundred of ten minutes is six seconds; each of these takes about two.
    for (let i = 0; i < 4; i++) hear('1X9CRT-9', 'WIDE1-1', `>${String(i).repeat(220)}`);
    await countOnce('repeated', 'its share of the channel is used up');
    await disarm();
    hear('1X9CRT-9', 'WIDE1-1', '>locked');
    await bench.server.ask('GET', '/gating');
    clock.pass(10 * 60_000);
    await arm();
    hear('1X9CRT-9', 'WIDE1-1', '>open again');
    await until('it', () => timesSent('>open again') === 1);
    expect(timesSent('>locked')).toBe(0);
  });

  it('a viscous one lets others go first', async () => {
    await choose({ isViscous: true });
    hear('1X9CRT-9', 'WIDE1-1', '>quick');
    hear('1X9CRT-9', '1X9DIG*,WIDE1*', '>quick');
    hear('1X9CRT-9', 'WIDE1-1', '>slow');
    await until('both heard', async () => {
      const { body } = await bench.server.ask<FillInPreview>('GET', `/gating/fill-in/${bench.link.id}`);
      return body.heard >= 2 ? true : undefined;
    });
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(timesSent('>slow')).toBe(0);
    clock.pass(5000);
    await until('it', () => timesSent('>slow') === 1);
    expect(timesSent('>quick')).toBe(0);
  });

  it('tells beforehand what it would have done in the last hour', async () => {
    const { body } = await bench.server.ask<FillInPreview>('GET', `/gating/fill-in/${bench.link.id}`);
    expect(body.words).toMatch(
      /^in the last hour it would have repeated \d+ of \d+; 1 of them others repeated too: a gain$/,
    );
    expect(body.gained[0]?.call).toBe('1X9CRT-9');
  });
});
