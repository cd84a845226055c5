import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import type { Chain, Finding, Joint } from './chain.js';
import { COSTS, costOfJoints } from './costs.js';

/** What a radio does with nothing linked to it: the joint is one with itself. */
function ownPart({ radio }: Item, purpose: Purpose): string | undefined {
  if (purpose === 'beacon' && radio?.hasTracker) return 'its own tracker';
  return purpose === 'messages' && radio?.hasMessagePage ? 'its own message page' : undefined;
}

/** The chain of one stone: a radio that sends its own position, or has messages on its own screen. */
export function aloneChain(radio: Item, purpose: Purpose, isMissing: boolean): Chain | undefined {
  const name = ownPart(radio, purpose);
  if (name === undefined) return undefined;
  const joint: Joint = { name, signal: 'audio', findings: aloneFindings(radio) };
  return {
    purpose,
    stones: [{ item: radio, isMissing }],
    joints: [joint],
    keying: 'TNC',
    cost: costOfJoints([joint]) + (isMissing ? COSTS.missing : 0),
  };
}

/** Its own APRS and KISS exclude each other, and it must listen where the channel is. */
function aloneFindings(radio: Item): readonly Finding[] {
  const { band } = radio.switches;
  const wanted = [
    ['ownBeacon', 'on', 'its own beaconing is off', 'Switch its own beaconing on.'],
    ['kiss', 'off', 'KISS is on, and uses the same TNC', 'Switch KISS off.'],
    ['mode', 'FM', 'it is not set to FM', 'Set it to FM.'],
    ['tncBand', band, `its TNC is not on band ${band}, where the channel is`, `Set the TNC to band ${band}.`],
  ] as const;
  return wanted.flatMap(([id, to, text, mend]) =>
    to === undefined || radio.switches[id] === undefined || radio.switches[id] === to
      ? []
      : [
          {
            rule: `alone-${id}`,
            level: 'switch' as const,
            itemId: radio.id,
            text,
            mend,
            set: { itemId: radio.id, switch: id, to },
          },
        ],
  );
}
