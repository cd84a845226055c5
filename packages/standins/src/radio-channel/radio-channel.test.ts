import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { seededDice } from '../world/dice.js';
import { VirtualClock } from '../world/virtual-clock.js';
import { RadioChannel, type RadioSet, USUAL_ACCESS } from './radio-channel.js';

const FRAME = new Uint8Array(60).fill(0x55);

function channelOf(
  names: readonly string[],
  hears: (a: string, b: string) => boolean = () => true,
  seed = 1,
) {
  const clock = new VirtualClock();
  const channel = new RadioChannel(clock, seededDice(seed), hears);
  const heard: [string, number][] = [];
  const sets = names.map((name): RadioSet => ({ name, hear: () => void heard.push([name, clock.nowMs()]) }));
  sets.forEach((set) => channel.attach(set));
  return { clock, channel, heard, sets: sets as [RadioSet, RadioSet, RadioSet] };
}

describe('the radio channel', () => {
  it('delivers after the true air time, to all who hear, not to the sender', () => {
    const { clock, channel, heard, sets } = channelOf(['a', 'b', 'c'], (receiver) => receiver !== 'c');
    channel.send(sets[0], FRAME, { ...USUAL_ACCESS, persistence: 1 });
    clock.advance(10_000);
    expect(heard).toEqual([['b', airTimeMs(FRAME, 1200, USUAL_ACCESS)]]);
  });

  it('listens before it sends', () => {
    const { clock, channel, heard, sets } = channelOf(['a', 'b', 'c']);
    const eager = { ...USUAL_ACCESS, persistence: 1 };
    channel.send(sets[0], FRAME, eager);
    clock.advance(100);
    channel.send(sets[1], FRAME, eager);
    clock.advance(10_000);
    expect(heard.filter(([name]) => name === 'c')).toHaveLength(2);
  });

  it('loses both frames of hidden stations that overlap', () => {
    const { clock, channel, heard, sets } = channelOf(
      ['a', 'b', 'c'],
      (receiver, sender) => receiver === 'c' || sender === 'c',
    );
    const eager = { ...USUAL_ACCESS, persistence: 1 };
    channel.send(sets[0], FRAME, eager);
    clock.advance(100);
    channel.send(sets[1], FRAME, eager);
    clock.advance(10_000);
    expect(heard).toEqual([]);
  });

  // arithmetic: the number of slots waited is geometric; its mean is (1 − p)/p = 3 slots at p = 0.25.
  // The bounds are five standard errors of that mean over 2000 trials (σ = √(1−p)/p = 3.46).
  it('waits (1 − p)/p slots on average', () => {
    const { clock, channel, heard, sets } = channelOf(['a', 'b', 'c'], () => true, 99);
    const trials = 2000;
    const free = airTimeMs(FRAME, 1200, USUAL_ACCESS);
    let waited = 0;
    for (let i = 0; i < trials; i++) {
      const begun = clock.nowMs();
      channel.send(sets[0], FRAME);
      clock.advance(60_000);
      waited += ((heard.at(-1)?.[1] ?? 0) - begun - free) / USUAL_ACCESS.slotTimeMs;
    }
    const error = (5 * 3.4641) / Math.sqrt(trials);
    expect(Math.abs(waited / trials - 3)).toBeLessThan(error);
  });
});
