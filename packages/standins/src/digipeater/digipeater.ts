import { isMalformed } from '@mistpeak/core/bits/malformed';
import { decodeFrame, encodeFrame } from '@mistpeak/core/ax25/frame';
import { step, type DigipeaterRules, type DigipeaterState } from '@mistpeak/core/digipeating/digipeater';
import type { Clock } from '@mistpeak/link/clock';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';

/** A digipeater on the channel: core's published rules, and nothing of its own. */
export function digipeater(channel: RadioChannel, clock: Clock, rules: DigipeaterRules): RadioSet {
  let state: DigipeaterState = new Map();
  const set: RadioSet = {
    name: rules.call,
    hear: (raw) => {
      const frame = decodeFrame(raw);
      if (isMalformed(frame)) return;
      const [next, repeated] = step(state, frame, clock.nowMs(), rules);
      state = next;
      if (repeated) channel.send(set, encodeFrame(repeated));
    },
  };
  channel.attach(set);
  return set;
}
