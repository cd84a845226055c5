import { encodeAck, encodeMessage } from '@mistpeak/core/aprs/message';
import { Hub, type Port } from '../internet-server/hub.js';
import { VirtualClock } from '../world/virtual-clock.js';
import { service, SERVICES } from './services.js';

/** What a visitor hears within two minutes after a message to a service; he acknowledges answers, or not. */
function asked(name: string, text: string, acknowledges = true): string[] {
  const clock = new VirtualClock(0);
  const hub = new Hub(clock);
  const heard: string[] = [];
  const visitor: Port = {
    name: 'visitor',
    hears: (line) => {
      heard.push(line.slice(line.indexOf('::') + 1));
      const number = /\{(\w+)$/.exec(line)?.[1];
      if (number !== undefined && acknowledges)
        hub.pass(`QH4MPK-7>APZMPK,qAR,QH3PRT-10:${encodeAck(name, number)}`, visitor);
    },
  };
  hub.join(visitor);
  const end = service(hub, clock, name, SERVICES[name] as (typeof SERVICES)[string]);
  hub.pass(`QH4MPK-7>APZMPK,qAR,QH3PRT-10:${encodeMessage(name, text, '1')}`, visitor);
  // Told twice, as a retry is: within half a minute the hub takes it for the same.
  clock.advance(31_000);
  hub.pass(`QH4MPK-7>APZMPK,qAR,QH3PRT-10:${encodeMessage(name, text, '1')}`, visitor);
  clock.advance(120_000);
  end();
  expect(clock.leftovers()).toBe(0);
  return heard;
}

describe('the services of the island', () => {
  it.each([
    [
      'HTEXT',
      '@9990107 soup',
      [':QH4MPK-7 :delivered to 9990107{1', ':QH4MPK-7 :@9990107 got it, thank you{2'],
    ],
    ['HTEXT', '@1234567 soup', [':QH4MPK-7 :1234567 is no number here{1']],
    ['HTEXT', 'soup', [':QH4MPK-7 :write @number text{1']],
    ['HMAIL', 'kitchen@hollin.example soup', [':QH4MPK-7 :sent to kitchen@hollin.example{1']],
    ['HMAIL', 'kitchen@else.example soup', [':QH4MPK-7 :write name@hollin.example text{1']],
    ['HSKY', 'now', [':QH4MPK-7 :wind SW 7 m/s, 9 C, cloud on the ridge{1']],
    ['HSKY', 'Ostrick', [':QH4MPK-7 :Ostrick: SW 5 m/s, 10 C, dry{1']],
    ['HSKY', 'elsewhere', [':QH4MPK-7 :ask now, tonight or a village{1']],
  ])('%s to “%s”: each try is acknowledged, the answer comes once', (name, text, answers) => {
    const heard = asked(name, text);
    expect(heard.filter((line) => line.includes(':ack1'))).toHaveLength(2);
    expect(heard.filter((line) => !line.includes(':ack'))).toEqual(answers);
  });
});

it('an answer that nobody acknowledges is said again, each time later, and given up', () => {
  const answers = asked('HSKY', 'now', false).filter((line) => line.includes('wind'));
  // At 5, 36, 81 and 141 s of the 151 that are listened to; the last would come at 261.
  expect(answers).toHaveLength(4);
});

it('the hub passes nothing back to who brought it, and nothing twice within half a minute', () => {
  const clock = new VirtualClock(0);
  const hub = new Hub(clock);
  const heard: string[] = [];
  const port = (name: string): Port => ({ name, hears: (line) => void heard.push(`${name} ${line}`) });
  const [one, two] = [port('one'), port('two')];
  hub.join(one);
  const leave = hub.join(two);
  hub.pass('QH7CTA-9>APRS,qAR,QH3PRT-10:>hi', one);
  hub.pass('QH7CTA-9>APRS,qAO,QH1ANR:>hi', one);
  hub.pass('no packet', one);
  leave();
  clock.advance(30_000);
  hub.pass('QH7CTA-9>APRS,qAR,QH3PRT-10:>hi', undefined);
  expect(heard).toEqual(['two QH7CTA-9>APRS,qAR,QH3PRT-10:>hi', 'one QH7CTA-9>APRS,qAR,QH3PRT-10:>hi']);
});
