import { USUAL_DUPLICATE_WINDOW_MS } from '@mistpeak/core/digipeating/digipeater';
import type { Clock } from '@mistpeak/link/clock';
import { digipeater } from '../digipeater/digipeater.js';
import { RadioChannel, type RadioSet } from '../radio-channel/radio-channel.js';
import { beaconFrom, beaconing } from '../stations/beaconing.js';
import { DIGIPEATER_BEACONS, FIRST_THREE } from '../stations/first-three.js';
import { seededDice } from './dice.js';

export const OPERATOR_SET = 'operator';

/** Who hears whom: the head digipeater hears all and is heard by all; the valley and the road lie behind the ridge. */
const HEARD_AT_THE_HUT = ['QH1ANR', 'QH6WXA-13'];

export interface World {
  readonly channel: RadioChannel;
  end(): void;
  leftovers(): number;
}

/** One digipeater and three stations on one channel; the operator's own set is attached by its TNC. */
export function firstWorld(clock: Clock, seed: number): World {
  const channel = new RadioChannel(clock, seededDice(seed), hears);
  const rules = { call: 'QH1ANR', role: 'wide', duplicateWindowMs: USUAL_DUPLICATE_WINDOW_MS } as const;
  const head: RadioSet = digipeater(channel, clock, rules);
  const stops = FIRST_THREE.map((plan) => beaconing(channel, clock, plan));
  stops.push(...DIGIPEATER_BEACONS.map((plan) => beaconFrom(channel, clock, head, plan)));
  return {
    channel,
    end: () => {
      for (const stop of stops) stop();
      channel.end();
    },
    leftovers: () => channel.leftovers(),
  };
}

function hears(receiver: string, sender: string): boolean {
  return receiver === OPERATOR_SET ? HEARD_AT_THE_HUT.includes(sender) : true;
}
