import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { USUAL_ACCESS } from '@mistpeak/core/network/channel';
import { seededDice } from '@mistpeak/core/network/dice';
import { VirtualClock } from '../world/virtual-clock.js';
import { RadioChannel, type RadioSet } from './radio-channel.js';

const FRAME = new Uint8Array(60).fill(0x55);
const EAGER = { ...USUAL_ACCESS, persistence: 1 };

/** The model's physics is core's and tested there; here: its clock, its frames, and that it tidies up. */
function channelOf(names: readonly string[]) {
  const clock = new VirtualClock();
  const channel = new RadioChannel(clock, seededDice(1), () => -80);
  const heard: [string, number][] = [];
  const sets = names.map((name): RadioSet => ({ name, hear: () => void heard.push([name, clock.nowMs()]) }));
  sets.forEach((set) => channel.attach(set));
  return { clock, channel, heard, sets: sets as [RadioSet, RadioSet] };
}

describe('the radio channel', () => {
  it('delivers after the true air time, and a set without ears only sends', () => {
    const { clock, channel, heard } = channelOf(['a', 'b']);
    channel.attach({ name: 'beacon' });
    channel.send({ name: 'beacon' }, FRAME, EAGER);
    clock.advance(10_000);
    const endMs = airTimeMs(FRAME, 1200, EAGER);
    expect(heard).toEqual([
      ['a', endMs],
      ['b', endMs],
    ]);
    expect([channel.leftovers(), clock.leftovers()]).toEqual([0, 0]);
  });

  it('stopped in the middle leaves nothing over', () => {
    const { clock, channel, heard, sets } = channelOf(['a', 'b']);
    for (let i = 0; i < 5; i++) channel.send(sets[0], FRAME);
    channel.send(sets[1], FRAME);
    clock.advance(400);
    channel.end();
    expect([channel.leftovers(), clock.leftovers(), heard.length]).toEqual([0, 0, 0]);
  });
});
