import { decodeFrame, encodeFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import {
  IDLE_DIGIPEATER,
  repeatByName,
  step,
  type DigipeaterContext,
  type DigipeaterEffect,
  type DigipeaterEvent,
  type DigipeaterState,
} from '@mistpeak/core/digipeating/digipeater';
import type { DigipeaterRules } from '@mistpeak/core/digipeating/service';
import { drive } from '@mistpeak/core/machine/drive';
import type { Clock } from '@mistpeak/link/clock';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';

/** A digipeater on the channel: core's published rules, and nothing of its own. servesAliases: else its own call alone. */
export function digipeater(
  channel: RadioChannel,
  clock: Clock,
  rules: DigipeaterRules,
  servesAliases = (): boolean => true,
): RadioSet {
  const running = drive<DigipeaterState, DigipeaterEvent, DigipeaterEffect, DigipeaterContext>(
    step,
    IDLE_DIGIPEATER,
    {
      clock,
      context: (moment) => ({ ...moment, rules }),
      perform: ({ frame }) => channel.send(set, encodeFrame(frame)),
    },
  );
  const set: RadioSet = {
    name: rules.call,
    hear: (raw) => {
      const frame = decodeFrame(raw);
      if (!isMalformed(frame) && frame.control.kind === 'UI') {
        const asked = frame.path.find(({ used }) => !used)?.call;
        if (servesAliases() || asked === rules.call) running.dispatch({ kind: 'heard', frame });
        return;
      }
      // Frames of a connection ask by name, and each of them counts.
      const repeated = repeatByName(raw, rules.call);
      if (repeated) channel.send(set, repeated);
    },
  };
  channel.attach(set);
  return set;
}
