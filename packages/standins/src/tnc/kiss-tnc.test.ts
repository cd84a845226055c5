import { connect, type Socket } from 'node:net';
import { once } from 'node:events';
import { encodeFrame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import type { Ax25Frame } from '@mistpeak/core/ax25/frame';
import { seededDice } from '@mistpeak/core/network/dice';
import { VirtualClock } from '../world/virtual-clock.js';
import { RadioChannel } from '../radio-channel/radio-channel.js';
import type { Fault } from './faults.js';
import { KissTnc } from './kiss-tnc.js';

const SIGNATURE = '\xc0\x06Mistpeak stand-in 1\xc0';
const HEARD = encodeFrame(parseMonitorText('QH6WXA-13>APZMPK:>calm') as Ax25Frame);

async function benchOf(fault?: Fault) {
  const clock = new VirtualClock();
  const channel = new RadioChannel(clock, seededDice(1), () => -80);
  const keyed: number[] = [];
  const other = { name: 'other', hear: () => void keyed.push(clock.nowMs()) };
  channel.attach(other);
  const tnc = new KissTnc({ channel, clock, dice: seededDice(2), name: 'operator', fault });
  const socket = connect(await tnc.listen(0), '127.0.0.1');
  let got = '';
  socket.on('data', (octets: Buffer) => (got += octets.toString('latin1')));
  await once(socket, 'connect');
  return {
    clock,
    keyed,
    socket,
    got: () => got,
    /** Real octets take real moments; the channel's clock is told to go on. */
    pass: async (ms = 1000) => {
      for (let i = 0; i < 10; i++) {
        await new Promise((resolve) => setTimeout(resolve, 5));
        clock.advance(ms);
      }
    },
    say: () => channel.send(other, HEARD),
    close: async () => {
      socket.destroy();
      await tnc.close();
      channel.end();
      expect([tnc.leftovers(), channel.leftovers(), clock.leftovers()]).toEqual([0, 0, 0]);
    },
  };
}

/** Literal octets: TXDELAY 500 ms, persistence 1, then a data frame of one octet. */
function sendOne(socket: Socket): void {
  socket.write(Buffer.from('c00132c0c002ffc0c00055c0', 'hex'));
}

describe('the stand-in TNC', () => {
  it('says that it is a stand-in, keys its radio with our TXDELAY, and passes on what it hears', async () => {
    const bench = await benchOf();
    sendOne(bench.socket);
    await bench.pass();
    expect(bench.keyed).toHaveLength(1);
    bench.say();
    await bench.pass();
    expect(bench.got()).toBe(`${SIGNATURE}\xc0\x00${Buffer.from(HEARD).toString('latin1')}\xc0`);
    await bench.close();
  });

  it.each([
    ['deaf', 1, SIGNATURE],
    ['not-keying', 0, `${SIGNATURE}\xc0\x00`],
    ['kiss-off', 0, 'QH6WXA-13>APZMPK:>calm\r\n'],
    ['text-prompt', 0, '\r\ncommand? '.repeat(2)],
  ] as const)('%s: keys %i times and says %j', async (fault, keyings, says) => {
    const bench = await benchOf(fault);
    sendOne(bench.socket);
    await bench.pass();
    expect(bench.keyed).toHaveLength(keyings);
    bench.say();
    await bench.pass();
    expect(bench.got().startsWith(says)).toBe(true);
    if (fault !== 'not-keying') expect(bench.got()).toHaveLength(says.length);
    await bench.close();
  });

  it('half open: works for a while, then neither reads nor writes nor hangs up', async () => {
    const bench = await benchOf('half-open');
    await bench.pass(1000);
    const before = bench.got();
    sendOne(bench.socket);
    bench.say();
    await bench.pass(2000);
    // Its own set hears nothing any more, and nobody heard it.
    expect([before, bench.got(), bench.keyed, bench.socket.destroyed]).toEqual([
      SIGNATURE,
      SIGNATURE,
      [],
      false,
    ]);
    await bench.close();
  });

  it('slow to open: silent at first, then well', async () => {
    const bench = await benchOf('slow-to-open');
    await bench.pass(500);
    expect(bench.got()).toBe('');
    await bench.pass(2000);
    expect(bench.got()).toBe(SIGNATURE);
    await bench.close();
  });

  it('losing bytes: some three in a hundred are missing', async () => {
    const bench = await benchOf('losing-bytes');
    for (let i = 0; i < 100; i++) bench.say();
    await bench.pass(200_000);
    const whole = SIGNATURE.length + 100 * (HEARD.length + 3);
    const lost = 1 - bench.got().length / whole;
    // Five standard errors of a share of 0.03.
    expect(Math.abs(lost - 0.03)).toBeLessThan(5 * Math.sqrt((0.03 * 0.97) / whole));
    await bench.close();
  });
});
