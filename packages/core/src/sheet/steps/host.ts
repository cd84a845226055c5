import type { Item } from '../../kit/item.js';
import type { SheetContext } from '../context.js';
import { placeOf } from '../kind-of-chain.js';
import { where, type Step } from './step.js';
import { PLUGS } from './wiring.js';

const isHand = ({ host }: Item): boolean => host?.hostClass === 'phone' || host?.hostClass === 'tablet';
const isHeadless = ({ host }: Item): boolean => host !== undefined && !host.hasScreen;
/** The sound card is at this one. */
const hasSound = ({ chain }: SheetContext, item: Item): boolean =>
  placeOf(chain, item).after?.transport === 'sound';
const hasSerial = ({ chain }: SheetContext, item: Item): boolean => {
  const { after } = placeOf(chain, item);
  return (
    !isHand(item) &&
    after?.signal !== 'audio' &&
    ['USB', 'RS-232', 'Bluetooth serial'].includes(after?.transport ?? '')
  );
};
/** The phone or tablet that the operator holds, if it is the end of the chain. */
const isEnd = ({ chain }: SheetContext, item: Item): boolean =>
  chain.stones.findLast(({ item: one }) => one.kind === 'host')?.item.id === item.id;

export const HOST: readonly Step[] = [
  PLUGS,
  {
    id: 'ports',
    setting: 'Which port',
    value: (context, item) =>
      where(
        hasSerial(context, item),
        'list the ports, plug or pair, list again: the new ones, each tried in turn',
      ),
    reason: 'Ports have no names that one would know, and some devices make several.',
    check: 'It goes away when the device is unplugged or switched off.',
    measures: 'port',
  },
  {
    id: 'pair',
    setting: 'Bluetooth',
    value: ({ chain }, item) =>
      where(placeOf(chain, item).entersBy === 'bluetooth', 'paired here, forgotten elsewhere'),
    reason: 'It connects to whatever it was paired with last.',
    check: 'The lamp of the TNC shows a connection when the app is open.',
  },
  {
    id: 'sounds',
    setting: 'Notification sounds',
    value: (context, item) => where(hasSound(context, item) && context.kind.transmits, 'muted'),
    reason: 'They go on the air.',
    check: 'Let it ring once: the radio does not key.',
  },
  {
    id: 'inputGain',
    setting: 'Input level',
    value: (context, item) =>
      where(hasSound(context, item) && leavesFlat(context), context.option('receiveLevel')),
    reason: 'The radio gives a fixed level there: it is set at the sound card.',
    check: 'The level stays inside the window through several packets.',
    school: 'receiveLevel',
    measures: 'RMS level, dBFS',
  },
  {
    id: 'outVolume',
    setting: 'Output volume',
    value: (context, item) =>
      hasSound(context, item) && context.kind.transmits ? transmitLevel(context) : undefined,
    reason: ({ kind }) =>
      kind.isFm
        ? 'Enough for about 3 to 3.5 kHz deviation, not more: too loud and nobody reads it.'
        : 'The drive is set here and watched at the radio.',
    check: ({ kind }) =>
      !kind.isFm
        ? 'The ALC meter stands as the step Drive says.'
        : kind.isPacket
          ? 'A second receiver decodes each packet.'
          : 'A second receiver hears it clear; the far station reports it so.',
    measures: 'step of the volume',
  },
  {
    id: 'wireless',
    setting: 'Network',
    value: ({ kind }, item) => where(kind.isNetworked, item.switches.wireless ?? 'joined'),
    reason: 'Modem and app must be on one network.',
    check: 'The address of the other answers.',
    measures: 'address',
  },
  {
    id: 'airplane',
    isCare: true,
    setting: 'Airplane mode',
    value: (context, item) =>
      where(
        context.kind.transmits && isHand(item) && isEnd(context, item),
        context.kind.isNetworked
          ? 'on for the proof, wireless on again'
          : 'on for the proof, Bluetooth on again',
      ),
    reason: 'What went through proves nothing while the app may use the internet.',
    check: 'The browser reaches nothing.',
  },
  {
    id: 'background',
    isCare: true,
    setting: 'Background and battery saving',
    value: (context, item) =>
      where(isHand(item) && isEnd(context, item), 'the app is kept awake, and close at hand'),
    reason: 'Turning, locking or another app can restart it in the middle.',
    check: 'Lock it for a minute: it goes on.',
  },
  {
    id: 'cold',
    isCare: true,
    setting: 'Cold start',
    value: (_, item) => where(isHeadless(item), 'modem, network and login come up by themselves'),
    reason: 'There is no screen to repair it in the field; some need a stand-in display.',
    check: 'Cut the power at home, wait, and use it without touching it.',
  },
  {
    id: 'secondWay',
    setting: 'Second way in',
    value: (_, item) => where(isHeadless(item), 'a cable or a second network, tried'),
    reason: 'The first one will fail once, far from home.',
    check: 'Log in by it with the first one off.',
  },
  {
    id: 'levelAfar',
    setting: 'Level from afar',
    value: (context, item) =>
      where(isHeadless(item) && hasSound(context, item), 'seen on the phone that is its screen'),
    reason: 'Nobody sees its meter in the field.',
    check: 'Turn the level down at the radio: the phone shows it.',
    measures: 'RMS level, dBFS',
  },
];

/** Sound comes at a fixed level, past the volume knob. */
const leavesFlat = ({ chain }: SheetContext): boolean =>
  ['six-pin', 'usb-a', 'usb-c'].includes(chain.stones[0]?.left?.connector ?? '');

function transmitLevel({ kind }: SheetContext): string {
  if (!kind.isFm) return 'up from low, by the ALC meter';
  if (kind.keyedBy === 'VOX') return 'down from the top until VOX lets go, then 3 dB up';
  if (kind.keyedBy === 'steady tone')
    return 'down from the top until the tone lets go of the key, then 3 dB up';
  return kind.isPacket
    ? 'up from low, until a second receiver decodes each packet'
    : 'up from low, until the far station answers at the first call';
}
