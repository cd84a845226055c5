import type { HealthView } from '@mistpeak/contract/health';
import { ANSWER_WITHIN_MS, SILENT_AFTER_MS } from '@mistpeak/core/internet/session';
import { INTERNET_SIDE, type FrameRecord } from '@mistpeak/contract/frame';
import type { InternetView } from '@mistpeak/contract/internet';
import type { MessagesView } from '@mistpeak/contract/messages';
import { InternetPeer } from '../testing/internet-peer.js';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { BEACON, OPERATOR, TEST_CALL, until } from '../testing/server-up.js';

const clock = new MovedClock();
const bench = linkedBench({ clock });
const ME = `${TEST_CALL}-7`;
let peer: InternetPeer;

beforeAll(async () => {
  peer = await InternetPeer.listen();
  await bench.server.ask('PUT', '/operator', OPERATOR);
});
afterAll(() => peer.close());

const view = async (): Promise<InternetView> =>
  (await bench.server.ask<InternetView>('GET', '/internet')).body;
const once = (what: string, fits: (view: InternetView) => boolean): Promise<InternetView> =>
  until(what, async () => {
    const now = await view();
    return fits(now) ? now : undefined;
  });
const choose = async (more: object = {}): Promise<{ status: number; body: unknown }> => {
  const { settings } = await view();
  return bench.server.ask('PUT', '/internet/settings', {
    isOn: true,
    host: '127.0.0.1',
    port: peer.port,
    call: `${TEST_CALL}-5`,
    isVerified: true,
    filter: 'r/-29.6/-11.4/50',
    sends: false,
    ...settings,
    ...more,
  });
};
const VERIFIED = `# logresp ${TEST_CALL}-5 verified, server TEST1\r\n`;
const logIn = async (): Promise<void> => {
  await peer.got('user ');
  peer.take();
  peer.say(VERIFIED);
  await once('the login', ({ phase }) => phase === 'in');
};
const frames = async (): Promise<FrameRecord[]> => {
  const page = bench.server.follow();
  const { frames: all } = await page.find('snapshot');
  page.close();
  return all.filter(({ linkId }) => linkId === INTERNET_SIDE);
};

describe('the connection', () => {
  it('is off until it is set up, and refuses what no server could be', async () => {
    expect(await view()).toMatchObject({ phase: 'off', counts: { lines: 0 } });
    expect((await choose({ port: 0 })).status).toBe(400);
    expect((await choose({ filter: 'x/1' })).status).toBe(400);
    expect((await choose({ call: '1X9OTH' })).status).toBe(409);
    expect(await view()).not.toHaveProperty('settings');
  });

  it('logs in octet by octet as the service wants it, and says where it is', async () => {
    await choose();
    // Public connection description: `user CALL pass N vers NAME VERSION filter …`; the passcode of 1X9TST by hand is 10426.
    expect(await peer.got('\r\n')).toBe(
      'user 1X9TST-5 pass 10426 vers Mistpeak 1 filter r/-29.6/-11.4/50\r\n',
    );
    peer.say(VERIFIED);
    peer.take();
    expect(await once('in', ({ phase }) => phase === 'in')).toMatchObject({
      server: 'TEST1',
      isVerified: true,
      isStandIn: false,
    });
  });

  it('asks for a new filter within the session; a form that is behind is told so', async () => {
    peer.take();
    const { settings } = await view();
    expect((await choose({ filter: 'm/20' })).status).toBe(200);
    expect(await peer.got('\r\n')).toBe('#filter m/20\r\n');
    expect((await choose({ ...settings })).status).toBe(409);
  });

  it('comes back by itself after it was hung up, and after two minutes of silence', async () => {
    peer.hangUp();
    expect(await once('apart', ({ phase }) => phase === 'apart')).toMatchObject({ trouble: 'closed' });
    clock.pass(7000);
    await logIn();
    clock.pass(SILENT_AFTER_MS);
    expect(await view()).toMatchObject({ phase: 'apart', trouble: 'silent' });
    clock.pass(7000);
    await logIn();
  });

  it.each([
    ['no banner', undefined, ''],
    ['not such a server', '\u00c0\u0000\u00ff KISS\r\n', ''],
    ['login refused', '# a server\r\n', '# login not allowed\r\n'],
    ['no answer to the login', '# a server\r\n', ''],
  ] as const)('names it: %s', async (trouble, banner, answer) => {
    peer.banner = banner;
    await choose({ isOn: false });
    peer.take();
    await choose({ isOn: true });
    await once('connected', ({ phase }) => ['greeting', 'login', 'apart'].includes(phase));
    if (answer !== '') {
      await peer.got('user ');
      peer.say(answer);
      await once('apart', ({ phase }) => phase === 'apart');
    } else if (trouble !== 'not such a server') {
      if (banner) await peer.got('user ');
      clock.pass(ANSWER_WITHIN_MS);
    }
    expect(await once('apart', ({ phase }) => phase === 'apart')).toMatchObject({ trouble });
    peer.banner = '# a server of the test\r\n';
    await choose({ isOn: false });
    peer.take();
    await choose({ isOn: true });
    await logIn();
  });
});

describe('what comes by it', () => {
  it('any octets and odd names are kept as a line and read; nothing twice within half a minute', async () => {
    peer.say(
      '1X9CRT-9>APZMPK,WIDE1-1,qAR,1X9GTE-10:>hi \u00ff\u0000\r\nHOLLIN-AB>APRS,TCPIP*,qAC,TEST1:>hut\r\n',
    );
    peer.say('1X9CRT-9>APZMPK,qAO,1X9GTE-11:>hi \u00ff\u0000\r\nno packet\r\n# comment\r\n');
    await once('all', ({ counts }) => counts.unreadable === 1);
    expect((await view()).counts).toMatchObject({ packets: 2, duplicates: 1, unreadable: 1 });
    const all = await until('the record', async () => {
      const now = await frames();
      return now.length === 3 && now.every(({ stored }) => stored) ? now : undefined;
    });
    expect(all.map(({ line, rawHex, origin, trouble }) => [line, rawHex, origin, trouble])).toEqual([
      ['1X9CRT-9>APZMPK,WIDE1-1,qAR,1X9GTE-10:>hi \u00ff\u0000', '', 'internet', undefined],
      ['HOLLIN-AB>APRS,TCPIP*,qAC,TEST1:>hut', '', 'internet', undefined],
      ['no packet', '', 'internet', 'not AX.25'],
    ]);
  });

  it('marks its stations as heard there, and proves no radio', async () => {
    const page = bench.server.follow();
    const { stations, evidence } = await page.find('snapshot');
    page.close();
    const hut = stations.find(({ name }) => name === 'HOLLIN-AB');
    expect(hut?.internetAtMs).toBeGreaterThan(0);
    expect(hut?.radioAtMs).toBeUndefined();
    expect(evidence.filter(({ rung }) => rung === 'packet decoded')).toEqual([]);
  });

  it('a flood of lines, of which some are far too long, is read whole and harms nothing', async () => {
    const before = (await view()).counts;
    const page = bench.server.follow();
    await page.find('snapshot');
    const lines = Array.from({ length: 20_000 }, (_, i) => `1X9CRT-9>APRS,qAC,TEST1:>${i}`).join('\r\n');
    peer.say(`${lines}\r\n${'x'.repeat(2048)}\r\n1X9CRT-9>APRS,qAC,TEST1:>end\r\n`);
    await once('the end', ({ counts }) => counts.packets >= before.packets + 20_001);
    expect((await view()).counts.tooLong).toBe(1);
    // Pages are told as much of it as can be read, for each second that it took.
    const told = page.events.filter(({ kind }) => kind === 'frame').length;
    page.close();
    expect(told).toBeGreaterThanOrEqual(50);
    expect(told).toBeLessThanOrEqual(50 * 31);
    expect((await bench.server.ask('GET', '/beacon')).status).toBe(200);
    // A slow machine takes its time to write it all.
    await until('the database', async () =>
      (await bench.server.ask<HealthView>('GET', '/health')).body.database === 'here' ? true : undefined,
    );
  });

  it('a beacon of ours that a gate heard on radio lights “at a gateway”; by the internet alone it does not', async () => {
    await bench.server.ask('PUT', '/beacon', BEACON);
    await bench.server.ask('PUT', `/links/${bench.link.id}/lock`, { call: ME });
    const sent = await bench.server.ask<{ id: string }>('POST', '/beacon/transmissions', {
      linkId: bench.link.id,
    });
    expect(sent.status).toBe(200);
    const info = '!2937.92S/01124.30W-test';
    const gates = async (): Promise<unknown> => {
      const page = bench.server.follow();
      const { transmissions, evidence } = await page.find('snapshot');
      page.close();
      return [
        transmissions.find(({ id }) => id === sent.body.id)?.gates.map(({ by }) => by),
        evidence
          .filter(({ rung }) => rung === 'at a gateway')
          .map(({ words }) => words.replace(/[\d.]+ s/, 'n s')),
      ];
    };
    for (const path of ['TCPIP*,qAC,TEST1', `qAR,${TEST_CALL}-10`, 'TCPIP*,qAR,1X9GTE-10', 'qAO,1X9GTE-11'])
      peer.say(`${ME}>APZMPK,${path}:${info}\r\n`);
    await once('all', ({ ways }) => ways[0]?.all === 4);
    expect(await gates()).toEqual([[], []]);
    peer.say(`${ME}>APZMPK,1X9DIG*,qAR,1X9GTE-10:${info}\r\n`);
    await once('the gate', ({ ways }) => ways[0]?.byRadio === 1);
    peer.say(`${ME}>APZMPK,qAr,1X9GTE-10:${info}\r\n`);
    const { ways } = await once('both', ({ ways: all }) => all[0]?.all === 6);
    expect(await gates()).toEqual([
      ['1X9GTE-10'],
      ['1X9GTE-10, n s after it was sent: a gateway heard it on radio (qAR)'],
    ]);
    expect(ways[0]?.words).toBe(
      '2 of 6 by radio, all through 1X9GTE-10; 1 perhaps, by receive-only gates; 3 by the internet alone',
    );
  });
});

describe('what leaves by it', () => {
  const write = (text: string): Promise<{ status: number; body: { id: string } }> =>
    bench.server.ask('POST', '/messages', {
      from: `${TEST_CALL}-5`,
      to: '1X9FAR',
      text,
      linkId: INTERNET_SIDE,
      path: '',
    });
  const phaseOf = async (id: string): Promise<string | undefined> =>
    (await bench.server.ask<MessagesView>('GET', '/messages')).body.outgoing.find((one) => one.id === id)
      ?.phase.kind;

  it('nothing until it is allowed; then a message, and its acknowledgement comes back', async () => {
    peer.take();
    const { body } = await write('by wire');
    expect(await phaseOf(body.id)).toBe('queued');
    await choose({ sends: true });
    expect(await peer.got('by wire')).toContain('1X9TST-5>APZMPK,TCPIP*::1X9FAR   :by wire{00\r\n');
    peer.say(`1X9FAR>APRS,TCPIP*,qAC,TEST1::1X9TST-5 :ack00\r\n`);
    await until('acknowledged', async () => (await phaseOf(body.id)) === 'acknowledged');
    const page = bench.server.follow();
    const { evidence } = await page.find('snapshot');
    page.close();
    expect(evidence.some(({ rung }) => rung === 'message acknowledged')).toBe(false);
  });

  it('a message for us by the internet is acknowledged there', async () => {
    peer.take();
    peer.say(`1X9FAR>APRS,TCPIP*,qAC,TEST1::1X9TST-5 :are you there?{7\r\n`);
    expect(await peer.got('ack7')).toContain('1X9TST-5>APZMPK,TCPIP*::1X9FAR   :ack7\r\n');
  });

  it('not verified it takes nothing from us', async () => {
    await choose({ isVerified: false });
    expect(await peer.got('pass -1')).toContain('user 1X9TST-5 pass -1 vers');
    peer.say('# logresp 1X9TST-5 unverified, server TEST1\r\n');
    await once('unverified', ({ phase, isVerified }) => phase === 'in' && isVerified === false);
    peer.take();
    const { body } = await write('not now');
    expect(await phaseOf(body.id)).toBe('queued');
    expect(peer.take()).toBe('');
  });

  it('a demo call is not told to a server that is no stand-in', async () => {
    await choose({ isOn: false });
    const { version } = (await bench.server.ask<{ operator: { version: number } }>('GET', '/operator')).body
      .operator;
    await bench.server.ask('PUT', '/operator', { ...OPERATOR, call: 'QH4MPK', version });
    peer.take();
    await choose({ isOn: true, call: 'QH4MPK' });
    await once('apart', ({ trouble }) => trouble === 'demo call on a real server');
    expect(peer.take()).toBe('');
  });
});
