import { encodeAck, encodeMessage } from '@mistpeak/core/aprs/message';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toLatin1 } from '@mistpeak/core/bits/octets';
import { viewFrame, type FrameView } from '@mistpeak/core/stations/view';
import { RadioChannel, type RadioSet } from '../radio-channel/radio-channel.js';
import { VirtualClock } from '../world/virtual-clock.js';
import { answering } from './answering.js';

function talk(): {
  said: string[];
  ask: (info: string) => void;
  pass: (ms: number) => void;
  end: () => void;
} {
  const clock = new VirtualClock(0);
  const channel = new RadioChannel(
    clock,
    () => 0.1,
    () => -60,
  );
  const said: string[] = [];
  const asker: RadioSet = {
    name: 'QH4MPK-9',
    hear: (raw) => void said.push(toLatin1((viewFrame(raw) as FrameView).frame.info)),
  };
  channel.attach(asker);
  const { end } = answering(channel, clock, 'QH7CTA-9', 'two, and you?');
  return {
    said,
    ask: (info) => channel.send(asker, encodeFrame(uiFrame('QH4MPK-9', 'APZMPK', [], fromLatin1(info)))),
    pass: (ms) => clock.advance(ms),
    end,
  };
}

const QUESTION = encodeMessage('QH7CTA-9', 'how many?', '5');
const ANSWER = encodeMessage('QH4MPK-9', 'two, and you?', '1');

it('says an unacknowledged answer again, five times at most', () => {
  const { said, ask, pass, end } = talk();
  ask(QUESTION);
  pass(30_000);
  expect(said).toEqual([encodeAck('QH4MPK-9', '5'), ANSWER]);
  pass(600_000);
  expect(said.filter((info) => info === ANSWER)).toHaveLength(5);
  end();
});

it('is quiet once acknowledged, and takes no other acknowledgement for it', () => {
  const { said, ask, pass, end } = talk();
  ask(QUESTION);
  pass(20_000);
  ask(encodeAck('QH7CTA-9', '2'));
  pass(30_000);
  expect(said.filter((info) => info === ANSWER)).toHaveLength(2);
  ask(encodeAck('QH7CTA-9', '1'));
  pass(600_000);
  expect(said.filter((info) => info === ANSWER)).toHaveLength(2);
  end();
});
