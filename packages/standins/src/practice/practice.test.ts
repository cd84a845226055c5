import { once } from 'node:events';
import { connect } from 'node:net';
import { encodeAck, encodeMessage } from '@mistpeak/core/aprs/message';
import { decodeFrame, encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { formatMonitorText, parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { ALL_WELL, formatOrder, type PracticeOrder } from '@mistpeak/core/drills/practice';
import { ConnectedEnd } from '../connected/connected-end.js';
import { ControlledRadio } from '../mail/controlled-radio.js';
import { HUT_SITE } from '../stations/cast.js';
import { VirtualClock } from '../world/virtual-clock.js';
import { makeLand, makeWorld, OPERATOR_SET } from '../world/world.js';
import { Practice } from './practice.js';
import { PracticePort } from './practice-port.js';

const land = makeLand();
const START_MS = Date.UTC(2026, 9, 12, 14);

function evening() {
  const clock = new VirtualClock(START_MS);
  const world = makeWorld(clock, 1, land);
  const heard: string[] = [];
  const set = {
    name: OPERATOR_SET,
    hear: (raw: Uint8Array) => {
      const frame = decodeFrame(raw);
      if (!isMalformed(frame)) heard.push(formatMonitorText(frame));
    },
  };
  world.channel.attach(set);
  return {
    clock,
    world,
    heard,
    send: (line: string) => world.channel.send(set, encodeFrame(parseMonitorText(line) as Ax25Frame)),
    order: (more: Partial<PracticeOrder>) => world.suffer({ ...ALL_WELL, ...more }),
  };
}

describe('the world suffers, and is well again', () => {
  it('no digipeater serves an alias any more; one that is named does', () => {
    const { clock, world, heard, send, order } = evening();
    order({ faults: ['path'] });
    clock.advance(5000);
    heard.length = 0;
    const beacons = (): void => {
      for (let i = 0; i < 4; i++) {
        send('QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:>hut ' + String(i));
        clock.advance(40_000);
      }
    };
    beacons();
    expect(heard.filter((line) => line.includes('>hut'))).toEqual([]);
    for (let i = 0; i < 4; i++) {
      send('QH4MPK-7>APZMPK,QH1ANR:>by name ' + String(i));
      clock.advance(40_000);
    }
    expect(heard.some((line) => /^QH4MPK-7>APZMPK,QH1ANR\*:>by name/.test(line))).toBe(true);
    order({});
    beacons();
    expect(heard.some((line) => /^QH4MPK-7>APZMPK,QH1.*>hut/.test(line))).toBe(true);
    world.end();
  });

  it('somebody else beacons with the same call-SSID, from Ostrick', () => {
    const { clock, world, heard, order } = evening();
    order({ faults: ['ssid'], ownCall: 'QH4MPK-7' });
    clock.advance(400_000);
    expect(heard.some((line) => line.startsWith('QH4MPK-7>') && line.endsWith('tracker'))).toBe(true);
    order({ faults: ['path'] });
    clock.advance(10_000);
    heard.length = 0;
    clock.advance(400_000);
    expect(heard.filter((line) => line.startsWith('QH4MPK-7>'))).toEqual([]);
    // Whose call it is has to be known.
    order({ faults: ['ssid'] });
    world.end();
    expect(clock.leftovers()).toBe(0);
  });

  it('gateways behave as they are told: one serves that is silent else', () => {
    const { clock, world, order } = evening();
    world.ears.place('QH4MPK', HUT_SITE);
    const told = (call: string): string => {
      const me = new ConnectedEnd(world.channel, clock, 'QH4MPK', undefined);
      const lines: string[] = [];
      me.connect(call, [], () => ({ line: (text) => void lines.push(text) }), 8);
      clock.advance(180_000);
      me.end();
      return lines.find((line) => /^\[|^\*\*\*/.test(line))?.slice(0, 7) ?? 'none';
    };
    expect(told('QH5VEL-10')).toBe('[Hollin');
    order({ gateways: { 'QH5VEL-10': 'silent', 'QH5OST-10': 'without service', 'QH5SAL-10': 'serves' } });
    expect(['QH5VEL-10', 'QH5OST-10', 'QH5SAL-10'].map(told)).toEqual(['none', '*** The', '[Hollin']);
    order({});
    expect(told('QH5SAL-10')).toBe('none');
    world.end();
  });

  it('a station says what it is told until it is acknowledged', () => {
    const { clock, world, heard, send, order } = evening();
    order({ says: { from: 'QH8CLA-7', to: 'QH4MPK', text: 'pse relay QH7CTC-9: lamps' } });
    const asked = (): string[] =>
      heard.filter((line) => line.includes(':QH4MPK   :pse relay QH7CTC-9: lamps{'));
    clock.advance(130_000);
    expect(asked().length).toBeGreaterThan(0);
    const number = /\{(\w+)/.exec(asked()[0] as string)?.[1] as string;
    for (let i = 0; i < 3; i++) {
      send(`QH4MPK>APZMPK,WIDE1-1,WIDE2-1:${encodeAck('QH8CLA-7', number)}`);
      clock.advance(20_000);
    }
    heard.length = 0;
    clock.advance(120_000);
    expect(asked()).toEqual([]);
    // Who is not on the island says nothing.
    order({ says: { from: 'QH8XXX', to: 'QH4MPK', text: 'x' } });
    world.end();
  });

  it('a service that is closed is acknowledged, and not answered', () => {
    const { clock, world, heard, send, order } = evening();
    const ask = (number: number): string[] => {
      heard.length = 0;
      for (let i = 0; i < 4; i++) {
        send(`QH4MPK>APZMPK,WIDE1-1,WIDE2-1:${encodeMessage('HSKY', 'now', String(number))}`);
        clock.advance(40_000);
      }
      return heard.filter((line) => line.includes('HSKY>') && line.includes(':QH4MPK'));
    };
    order({ faults: ['service-closed'] });
    const closed = ask(1);
    expect(closed.some((line) => line.includes(':ack1'))).toBe(true);
    expect(closed.filter((line) => line.includes('wind'))).toEqual([]);
    order({});
    expect(ask(2).some((line) => line.includes('wind SW'))).toBe(true);
    world.end();
  });
});

describe('orders by the port', () => {
  it('are carried out by world, TNC and radio, and answered; what is none is refused', async () => {
    const done: string[] = [];
    const radio = new ControlledRadio();
    const practice = new Practice(
      { suffer: ({ faults }) => void done.push(`world ${faults.join()}`) },
      { behave: ({ hears }) => Promise.resolve(void done.push(`hears ${hears}`)) },
      { choose: (band) => void done.push(band) },
    );
    const port = new PracticePort((order) => practice.obey(order));
    const socket = connect(await port.listen(0), '127.0.0.1');
    const say = async (text: string): Promise<string> => {
      socket.write(text);
      return String((await once(socket, 'data'))[0]);
    };
    const order = formatOrder({ faults: ['deaf', 'radio-control'], gateways: {} });
    // Nothing was practised: a TNC that was begun with a fault of its own keeps it.
    expect(await say(`${formatOrder(ALL_WELL)}\n`)).toBe('done\n');
    expect(done.splice(0)).toEqual(['world ', 'A']);
    socket.write(order.slice(0, 9));
    expect(await say(`${order.slice(9)}\n`)).toBe('done\n');
    expect(done.splice(0)).toEqual(['world deaf,radio-control', 'B', 'hears false']);
    expect(await say('hello\n')).toMatch(/^no no order/);
    expect(await say(`${formatOrder(ALL_WELL)}\n`)).toBe('done\n');
    expect(done).toEqual(['world ', 'A', 'hears true']);
    const over = once(socket, 'close');
    socket.write('x'.repeat(4001));
    await over;
    await port.close();
    expect(radio.frequencyHz()).toBe(144_800_000);
  });

  it('a radio whose other band is chosen keeps the frequency that the data go by', async () => {
    const radio = new ControlledRadio();
    const socket = connect(await radio.listen(0), '127.0.0.1');
    radio.choose('B');
    socket.write('FREQ 0144850000\rFREQ?\r');
    expect(String((await once(socket, 'data'))[0])).toMatch('144800000');
    radio.choose('A');
    socket.write('FREQ 0144850000\rFREQ?\r');
    expect(String((await once(socket, 'data'))[0])).toMatch('144850000');
    socket.destroy();
    await radio.close();
  });
});
