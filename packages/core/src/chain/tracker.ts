import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import type { Chain, Finding, Joint } from './chain.js';
import { COSTS, costOfJoints } from './costs.js';

/** The chain of one stone: a radio that sends its own position. */
export function trackerChain(radio: Item, purpose: Purpose, isMissing: boolean): Chain | undefined {
  if (purpose !== 'beacon' || !radio.radio?.hasTracker) return undefined;
  const joint: Joint = { name: 'its own tracker', signal: 'audio', findings: trackerFindings(radio) };
  return {
    purpose,
    stones: [{ item: radio, isMissing }],
    joints: [joint],
    keying: 'TNC',
    cost: costOfJoints([joint]) + (isMissing ? COSTS.missing : 0),
  };
}

/** Its tracker and KISS exclude each other. */
function trackerFindings(radio: Item): readonly Finding[] {
  const switches = [
    ['ownBeacon', 'on', 'its own beaconing is off', 'Switch its own beaconing on.'],
    ['kiss', 'off', 'KISS is on, and uses the same TNC', 'Switch KISS off.'],
    ['mode', 'FM', 'it is not set to FM', 'Set it to FM.'],
  ] as const;
  return switches.flatMap(([id, to, text, mend]) =>
    radio.switches[id] === undefined || radio.switches[id] === to
      ? []
      : [
          {
            rule: `tracker-${id}`,
            level: 'switch' as const,
            itemId: radio.id,
            text,
            mend,
            set: { itemId: radio.id, switch: id, to },
          },
        ],
  );
}
