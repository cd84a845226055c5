import type { Item } from '../../kit/item.js';
import type { SheetContext } from '../context.js';
import { countPlugs, isPlugged } from '../kind-of-chain.js';
import { where, type Step } from './step.js';

/** What is plugged, and the boxes in between. */
const isFirstWired = ({ chain }: SheetContext, item: Item): boolean =>
  chain.stones.find(isPlugged)?.item.id === item.id;

/** A TNC with a battery of its own: nothing feeds it by its plug, and it draws nothing from the field battery. */
const hasOwnBattery = ({ ports, drawMilliamps }: Item): boolean =>
  drawMilliamps === undefined &&
  ports.some(({ connector }) => connector === 'bluetooth') &&
  !ports.some(({ usb }) => usb === 'device');

const isTnc = (item: Item): boolean => item.ways.some(({ turns }) => turns !== undefined);

export const PLUGS: Step = {
  id: 'seat',
  isCare: true,
  setting: 'Plugs',
  value: (context, item) => {
    const plugs = countPlugs(context.chain);
    return isFirstWired(context, item) ? (plugs === 1 ? 'home' : `all ${plugs} home`) : undefined;
  },
  reason: 'A half-seated plug gives quiet audio, or a port that is not there.',
  check: 'Push each once more; nothing moves. Look at the radio: some plugs change a setting as they go in.',
};

/** Of a TNC or a sound card; also of one inside a radio. */
export const HELD: Omit<Step, 'value'> = {
  id: 'heldBy',
  setting: 'Held by',
  reason: 'One app holds a TNC or a sound card, also while it only sleeps in the background.',
  check: 'No other app that could have it is in the list of running ones.',
};

export const CABLE: readonly Step[] = [PLUGS];

export const INTERFACE: readonly Step[] = [
  PLUGS,
  {
    id: 'charge',
    isCare: true,
    setting: 'Battery and switch',
    value: (_, item) => where(hasOwnBattery(item), 'charged, on'),
    reason: 'A TNC that sleeps is not in the list.',
    check: 'Its lamp is lit.',
  },
  {
    ...HELD,
    value: (_, item) => where(item.switches.heldBy !== undefined || isTnc(item), 'one program only'),
  },
  {
    id: 'txdelay',
    setting: 'TXDELAY',
    value: ({ kind }, item) =>
      where(
        kind.transmits && isTnc(item),
        kind.endsInMistpeak ? 'as the page TNC reckons it' : '300 ms to begin with',
      ),
    reason: 'From key-down to valid data; too short cuts the start of every packet.',
    check: ({ kind }) =>
      kind.isAprs
        ? 'An echo comes; if not, try half a second.'
        : 'The far station answers; if not, try half a second.',
    measures: 'ms that work',
  },
  {
    id: 'speed',
    setting: 'Serial speed',
    value: (_, item) => where(isRs232(item), 'the same here and in the program'),
    reason: 'At another speed what comes is unreadable, or nothing.',
    check: 'A line of text stands on the screen, readable, when it is switched on.',
    measures: 'baud',
  },
];

const isRs232 = ({ ports }: Item): boolean => ports.some(({ connector }) => connector.startsWith('rs232'));
