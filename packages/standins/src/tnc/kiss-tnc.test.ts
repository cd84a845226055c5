import { connect, type Socket } from 'node:net';
import { once } from 'node:events';
import { decodeFrame, encodeFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { WorldFault } from '@mistpeak/core/drills/practice';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import type { Ax25Frame } from '@mistpeak/core/ax25/frame';
import { seededDice } from '@mistpeak/core/network/dice';
import { VirtualClock } from '../world/virtual-clock.js';
import { RadioChannel } from '../radio-channel/radio-channel.js';
import { practisedBehaviour, type Fault } from './faults.js';
import { KissTnc } from './kiss-tnc.js';

const SIGNATURE = '\xc0\x06Mistpeak stand-in 1\xc0';
const HEARD = encodeFrame(parseMonitorText('QH6WXA-13>APZMPK:>calm') as Ax25Frame);

async function benchOf(fault?: Fault) {
  const clock = new VirtualClock();
  const channel = new RadioChannel(clock, seededDice(1), () => -80);
  const keyed: number[] = [];
  const readable: boolean[] = [];
  const other = {
    name: 'other',
    hear: (raw: Uint8Array) => {
      keyed.push(clock.nowMs());
      readable.push(!isMalformed(decodeFrame(raw)));
    },
  };
  channel.attach(other);
  const tnc = new KissTnc({ channel, clock, dice: seededDice(2), name: 'operator', fault });
  const socket = connect(await tnc.listen(0), '127.0.0.1');
  let got = '';
  socket.on('data', (octets: Buffer) => (got += octets.toString('latin1')));
  await once(socket, 'connect');
  return {
    clock,
    keyed,
    readable,
    tnc,
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

describe('what is practised', () => {
  const own = Buffer.concat([
    Buffer.from('c000', 'hex'),
    Buffer.from(encodeFrame(parseMonitorText('QH4MPK>APZMPK:>here') as Ax25Frame)),
    Buffer.from('c0', 'hex'),
  ]);
  const rounds = 40;

  /** So many of ours that somebody can read, so many of others' that come to the program, of forty each. */
  async function shares(faults: readonly WorldFault[]): Promise<[number, number]> {
    const bench = await benchOf();
    await bench.tnc.behave(practisedBehaviour(faults));
    for (let i = 0; i < rounds; i++) {
      bench.socket.write(own);
      await new Promise((resolve) => setTimeout(resolve, 5));
      bench.clock.advance(20_000);
      bench.say();
      bench.clock.advance(20_000);
    }
    // What came late is keyed late.
    await bench.pass(20_000);
    const heard = bench.got().split(Buffer.from(HEARD).toString('latin1')).length - 1;
    await bench.close();
    return [bench.readable.filter(Boolean).length, heard];
  }

  it.each<[WorldFault[], [number, number], [number, number]]>([
    [[], [40, 40], [40, 40]],
    [
      ['path', 'ssid'],
      [40, 40],
      [40, 40],
    ],
    [['kiss-off'], [0, 0], [0, 0]],
    [['held'], [0, 0], [0, 0]],
    [['wrong-band'], [0, 0], [0, 0]],
    [['deaf'], [40, 40], [0, 0]],
    [['squelch'], [40, 40], [2, 20]],
    [['plug'], [2, 20], [1, 16]],
    [['vox-slow'], [0, 0], [40, 40]],
    [['over-deviated'], [0, 0], [40, 40]],
    [['keying-tone'], [0, 0], [40, 40]],
    [['battery'], [1, 20], [40, 40]],
    [
      ['over-deviated', 'deaf'],
      [0, 0],
      [0, 0],
    ],
    [
      ['squelch', 'battery'],
      [1, 20],
      [2, 20],
    ],
  ])(
    '%j: others read %j, the program gets %j',
    async (faults, [leastRead, mostRead], [leastGot, mostGot]) => {
      const [read, got] = await shares(faults);
      expect(read).toBeGreaterThanOrEqual(leastRead);
      expect(read).toBeLessThanOrEqual(mostRead);
      expect(got).toBeGreaterThanOrEqual(leastGot);
      expect(got).toBeLessThanOrEqual(mostGot);
    },
  );

  it('a VOX that hangs hears nothing for four seconds after its own packet', async () => {
    const bench = await benchOf();
    await bench.tnc.behave(practisedBehaviour(['vox-hang']));
    bench.socket.write(own);
    await new Promise((resolve) => setTimeout(resolve, 20));
    bench.clock.advance(3000);
    bench.say();
    bench.clock.advance(1500);
    await bench.pass(1);
    expect(bench.got()).toBe(SIGNATURE);
    bench.clock.advance(3000);
    bench.say();
    bench.clock.advance(2000);
    await bench.pass(1);
    expect(bench.got()).toContain('calm');
    await bench.close();
  });

  it('at the wrong port nobody finds it; mended, it is where it was', async () => {
    const bench = await benchOf();
    const port = bench.socket.remotePort as number;
    const closed = once(bench.socket, 'close');
    await bench.tnc.behave(practisedBehaviour(['wrong-port']));
    await closed;
    const lost = connect(port, '127.0.0.1');
    const [error] = (await once(lost, 'error')) as [NodeJS.ErrnoException];
    expect(error.code).toBe('ECONNREFUSED');
    await bench.tnc.behave(practisedBehaviour([]));
    const found = connect(port, '127.0.0.1');
    const [words] = (await once(found, 'data')) as [Buffer];
    expect(words.toString('latin1')).toBe(SIGNATURE);
    found.destroy();
    await bench.close();
  });

  it('a program that is connected stays so while the fault comes and goes', async () => {
    const bench = await benchOf();
    await bench.tnc.behave(practisedBehaviour(['held']));
    bench.say();
    await bench.pass();
    expect(bench.got()).toBe(SIGNATURE);
    await bench.tnc.behave(practisedBehaviour([]));
    bench.say();
    await bench.pass();
    expect(bench.got()).toContain('calm');
    await bench.close();
  });
});
