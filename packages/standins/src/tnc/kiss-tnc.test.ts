import { connect, type Socket } from 'node:net';
import { once } from 'node:events';
import { seededDice } from '../world/dice.js';
import { VirtualClock } from '../world/virtual-clock.js';
import { RadioChannel } from '../radio-channel/radio-channel.js';
import { KissTnc } from './kiss-tnc.js';

/** What the far end wrote, until it is at least so long. */
async function read(socket: Socket, length: number): Promise<string> {
  let got = Buffer.alloc(0);
  while (got.length < length) got = Buffer.concat([got, ((await once(socket, 'data')) as [Buffer])[0]]);
  return got.toString('latin1');
}

describe('the stand-in TNC', () => {
  it('says that it is a stand-in, keys its radio with our TXDELAY, and passes on what it hears', async () => {
    const clock = new VirtualClock();
    const channel = new RadioChannel(clock, seededDice(1), () => true);
    const other: number[] = [];
    const set = { name: 'other', hear: () => void other.push(clock.nowMs()) };
    channel.attach(set);
    const tnc = new KissTnc(channel, 'operator');
    const socket = connect(await tnc.listen(0), '127.0.0.1');
    expect(await read(socket, 22)).toBe('\xc0\x06Mistpeak stand-in 1\xc0');

    // literal octets: TXDELAY 500 ms, persistence 1, then a data frame of one octet
    socket.write(Buffer.from('c00132c0c002ffc0c00055c0', 'hex'));
    for (let i = 0; i < 100 && other.length === 0; i++) {
      await new Promise((resolve) => setTimeout(resolve, 5));
      clock.advance(1000);
    }
    expect(other).toHaveLength(1);

    const passed = read(socket, 5);
    channel.send(set, Uint8Array.of(0xc0));
    clock.advance(30_000);
    expect(await passed).toBe('\xc0\x00\xdb\xdc\xc0');
    socket.destroy();
    await tnc.close();
    channel.end();
    expect([tnc.leftovers(), clock.leftovers()]).toEqual([0, 0]);
  });
});
