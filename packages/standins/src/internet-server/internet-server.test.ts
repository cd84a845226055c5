import { connect, type Socket } from 'node:net';
import { VirtualClock } from '../world/virtual-clock.js';
import { Hub } from './hub.js';
import { InternetServer } from './internet-server.js';

/** A client of plain octets. */
async function client(
  port: number,
): Promise<{ say: (text: string) => void; got: (text: string) => Promise<string>; end: () => void }> {
  const socket: Socket = connect(port, '127.0.0.1');
  let received = '';
  socket.on('data', (octets: Buffer) => (received += octets.toString('latin1')));
  socket.on('error', () => undefined);
  await new Promise((resolve) => socket.once('connect', resolve));
  const got = async (text: string): Promise<string> => {
    for (let tries = 0; tries < 6000; tries++) {
      if (received.includes(text)) return received;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    throw new Error(`${text} did not come, but ${received}`);
  };
  return { say: (text) => void socket.write(`${text}\r\n`), got, end: () => socket.destroy() };
}

// from: the public connection description of APRS-IS; the passcode of QH4MPK by hand: 18092
describe('the server of the island', () => {
  const clock = new VirtualClock(0);
  const hub = new Hub(clock);
  const server = new InternetServer(hub, clock);
  let port: number;
  beforeAll(async () => (port = await server.listen(0)));
  afterAll(async () => {
    await server.close();
    expect(clock.leftovers()).toBe(0);
  });

  it('says that it is a stand-in, verifies by the passcode, and comments every 20 s', async () => {
    const one = await client(port);
    expect(await one.got('\r\n')).toBe('# HOLLIN1 Mistpeak stand-in 1\r\n');
    one.say('hello');
    await one.got('# log in first');
    one.say('user QH4MPK-5 pass 18092 vers test 1');
    await one.got('# logresp QH4MPK-5 verified, server HOLLIN1\r\n');
    clock.advance(20_000);
    await one.got('# HOLLIN1 lives\r\n');
    one.end();
  });

  it('passes on what a verified one sends, with how it came; of others nothing', async () => {
    const [one, two, watcher] = [await client(port), await client(port), await client(port)];
    one.say('user QH4MPK-5 pass 18092 vers test 1');
    two.say('user QH4MPK-6 pass 1 vers test 1');
    watcher.say('user QH7CTA pass -1 vers test 1');
    await one.got('verified');
    await two.got('unverified');
    await watcher.got('unverified');
    two.say('QH4MPK-6>APZMPK,TCPIP*:>nobody hears this');
    one.say('QH4MPK-5>APZMPK,TCPIP*:>mine');
    one.say('QH8CLA-7>APZMPK,TCPIP*:>another');
    one.say('QH8CLB-7>APZMPK,WIDE1-1,qAR,QH4MPK-5:>heard by a gate');
    const heard = await watcher.got('heard by a gate');
    expect(heard).toContain('QH4MPK-5>APZMPK,TCPIP*,qAC,HOLLIN1:>mine\r\n');
    expect(heard).toContain('QH8CLA-7>APZMPK,TCPIP*,qAS,QH4MPK-5:>another\r\n');
    expect(heard).toContain('QH8CLB-7>APZMPK,WIDE1-1,qAR,QH4MPK-5:>heard by a gate\r\n');
    expect(heard).not.toContain('nobody hears this');
    for (const each of [one, two, watcher]) each.end();
  });

  it.each([
    ['r/-29.6/-11.4/50', ['near']],
    ['b/QH8CLB-7', ['far']],
    ['b/QH8*', ['near', 'far']],
    ['p/QH8CLA', ['near']],
    ['t/s', ['status']],
    ['t/pm', ['near', 'far']],
    ['a/-29/-12/-30/-11', ['near']],
    ['', ['near', 'far', 'status']],
  ])('by the filter “%s”, and messages for oneself always', async (filter, texts) => {
    const one = await client(port);
    one.say('user QH4MPK-5 pass -1 vers test 1');
    await one.got('unverified');
    if (filter !== '') one.say(`#filter ${filter}`);
    if (filter !== '') await one.got('active');
    clock.advance(31_000);
    for (const line of [
      'QH8CLA-7>APRS,qAR,QH3PRT-10:!2937.92S/01124.30W[near',
      'QH8CLB-7>APRS,qAR,QH3PRT-10:!2037.92S/01124.30W[far',
      'QH7CTA-9>APRS,qAR,QH3PRT-10:>status',
      'HTEXT>APRS,TCPIP*,qAC,HOLLIN1::QH4MPK-9 :for me',
    ])
      hub.pass(line, undefined);
    const heard = await one.got('for me');
    const told = heard
      .split('\r\n')
      .filter((line) => !line.startsWith('#') && line !== '' && !line.includes('for me'));
    expect(told.map((line) => /(?:\[|>)(\w+)$/.exec(line)?.[1])).toEqual(texts);
    one.end();
  });
});
