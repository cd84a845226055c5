import { decodeFrame, encodeFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import {
  IDLE_DIGIPEATER,
  repeatByName,
  step,
  type DigipeaterEvent,
  type DigipeaterRules,
} from '@mistpeak/core/digipeating/digipeater';
import type { Clock } from '@mistpeak/link/clock';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';

/** A digipeater on the channel: core's published rules, and nothing of its own. */
export function digipeater(channel: RadioChannel, clock: Clock, rules: DigipeaterRules): RadioSet {
  let state = IDLE_DIGIPEATER;
  const take = (event: DigipeaterEvent): void => {
    const [next, effects] = step(state, event, clock.nowMs(), rules);
    state = next;
    for (const effect of effects) {
      if (effect.kind === 'repeat') channel.send(set, encodeFrame(effect.frame));
      else clock.after(effect.ms, () => take({ kind: 'timer', key: effect.key }));
    }
  };
  const set: RadioSet = {
    name: rules.call,
    hear: (raw) => {
      const frame = decodeFrame(raw);
      if (!isMalformed(frame) && frame.control.kind === 'UI') return take({ kind: 'heard', frame });
      // Frames of a connection ask by name, and each of them counts.
      const repeated = repeatByName(raw, rules.call);
      if (repeated) channel.send(set, repeated);
    },
  };
  channel.attach(set);
  return set;
}
