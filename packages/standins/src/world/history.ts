import { encodePcap } from '@mistpeak/core/pcap/pcap';
import { VirtualClock } from './virtual-clock.js';
import { makeWorld, OPERATOR_SET, type Land } from './world.js';

const KISS_DATA = 0;

/** What the base hut heard in the hours before a time, as a capture with times (pcap, link type 202). */
export function history(land: Land, seed: number, untilMs: number, hours: number): Uint8Array {
  const clock = new VirtualClock(untilMs - hours * 3_600_000);
  const world = makeWorld(clock, seed, land);
  const packets: { atMs: number; packet: Uint8Array }[] = [];
  world.channel.attach({
    name: OPERATOR_SET,
    hear: (frame) => void packets.push({ atMs: clock.nowMs(), packet: Uint8Array.of(KISS_DATA, ...frame) }),
  });
  clock.advance(hours * 3_600_000);
  world.end();
  return encodePcap(packets);
}
