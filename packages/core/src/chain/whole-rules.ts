import type { Keying } from '../kit/item.js';
import type { Finding, Joint, Stone } from './chain.js';
import type { Demand } from './purpose.js';
import type { Walk } from './walk.js';

/** What can be told only of a whole chain: how it keys, and what holds its parts. at: the joint that it is said of. */
interface Told {
  readonly at: number;
  readonly finding: Finding;
}

/** The order in which a way of keying is taken where there are several: what is surest first (common practice, no source). */
const SUREST: readonly Keying[] = [
  'TNC',
  'CAT',
  'serial line',
  'chip pin',
  'PTT line',
  'steady tone',
  'VOX',
  'by hand',
];

/** How the whole chain keys: the surest way that comes through to the app. */
export const keyingOf = ({ flow }: Walk, { isSession }: Demand): Keying | undefined =>
  SUREST.find((one) => flow.keying.includes(one) && !(isSession && one === 'by hand'));

/** The joints of a whole chain, with what is said of the whole at the joint that it belongs to. */
export function judgeWhole(walk: Walk, demand: Demand): readonly Joint[] {
  const told = [...keyingFindings(walk, demand), ...heldFindings(walk), ...soundFindings(walk, demand)];
  return walk.joints.map((joint, i) => ({
    ...joint,
    findings: [...joint.findings, ...told.filter(({ at }) => at === i).map(({ finding }) => finding)],
  }));
}

function keyingFindings(walk: Walk, demand: Demand): Told[] {
  if (!demand.transmits) return [];
  const keying = keyingOf(walk, demand);
  const radio = (walk.stones[0] as Stone).item;
  if (keying === undefined) return radio.radio?.transmits ? [notKeyed(walk)] : [];
  if (keying !== 'VOX' || radio.switches.vox !== 'off') return [];
  const set = { itemId: radio.id, switch: 'vox', to: 'on' } as const;
  const text = 'only VOX can key it here, and it is off';
  return [
    {
      at: 0,
      finding: { rule: 'vox-off', level: 'switch', itemId: radio.id, text, mend: 'Switch VOX on.', set },
    },
  ];
}

/** Where the keying is lost: at the part that passes none, else at the app that works none of what is left. */
function notKeyed({ stones, joints }: Walk): Told {
  const keyless = stones.findIndex(
    ({ item }) => item.ways.length > 0 && item.ways.every(({ keys }) => keys.length === 0),
  );
  const at = keyless > 0 ? keyless - 1 : joints.length - 1;
  const to = (stones[at + 1] as Stone).item;
  const finding: Finding = {
    rule: 'not-keyed',
    level: 'breaks',
    itemId: to.id,
    text: keyless > 0 ? 'it fits, but does not key the radio' : `${to.name} has no way to key the radio here`,
    mend: 'A cable or an interface that keys: by the PTT line, by VOX, or a TNC.',
  };
  return { at: Math.max(0, at), finding };
}

function heldFindings({ stones, joints }: Walk): Told[] {
  const names = stones.map(({ item }) => item.name);
  return stones.flatMap(({ item }, i) => {
    const holder = item.switches.heldBy;
    if (!holder || names.includes(holder)) return [];
    const finding: Finding = {
      rule: 'held',
      level: 'switch',
      itemId: item.id,
      text: `${holder} holds it`,
      mend: `Close ${holder}, in the background too.`,
      set: { itemId: item.id, switch: 'heldBy', to: '' },
    };
    return [{ at: Math.min(i, joints.length - 1), finding }];
  });
}

/** Where sound keys or goes to the radio, whatever else sounds there goes on the air. */
function soundFindings({ stones, joints }: Walk, demand: Demand): Told[] {
  if (!demand.transmits) return [];
  return stones.flatMap(({ item, entered }, i) => {
    const isSound = joints[i]?.transport === 'sound' && entered !== undefined;
    if (!isSound || item.switches.sounds !== 'on') return [];
    const finding: Finding = {
      rule: 'notification-sounds',
      level: 'risk',
      itemId: item.id,
      text: 'its notification sounds go on the air unless they are muted',
      mend: 'Mute them while it is linked.',
      set: { itemId: item.id, switch: 'sounds', to: 'muted' },
    };
    return [{ at: i - 1, finding }];
  });
}
