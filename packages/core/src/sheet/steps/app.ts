import { itemsOf, radioOf, type Chain } from '../../chain/chain.js';
import { CONNECTORS } from '../../kit/connectors.js';
import type { Item, Keying } from '../../kit/item.js';
import type { SheetContext } from '../context.js';
import { placeOf } from '../kind-of-chain.js';
import { BEACON, PATH, WAYS } from './aprs.js';
import { SESSION } from './mail.js';
import { CALL_REASON, callOf, KISS_SOURCE, where, type Step } from './step.js';

/** A modem program stands between; the others are the end of the chain. */
const isModem = ({ app }: Item): boolean => app?.offers !== undefined;
const isOther = (item: Item): boolean => !isModem(item) && !item.app?.isMistpeak;
/** The program at the sound card. */
const isAtSound = ({ chain }: SheetContext, item: Item): boolean =>
  placeOf(chain, item).before?.transport === 'sound';
const ofTheEnd = (step: Step, fits: (item: Item) => boolean = (item) => !isModem(item)): Step => ({
  ...step,
  value: (context, item) => (fits(item) ? step.value(context, item) : undefined),
});

/** Where the sound of the radio comes into the computer. */
function soundCard(chain: Chain): string {
  const radio = radioOf(chain);
  if (itemsOf(chain).some(({ kind }) => kind === 'interface')) return 'the sound card of the interface';
  const leavesBy = placeOf(chain, radio).leavesBy;
  if (leavesBy === undefined || CONNECTORS[leavesBy].family !== 'USB') return 'the computer’s own sound card';
  return radio.radio?.transmits ? 'the sound card inside the radio' : 'the sound of the receiver';
}

function device({ chain }: SheetContext, item: Item): string | undefined {
  const { before } = placeOf(chain, item);
  if (before?.signal === 'audio') {
    const modem = isModem(item) ? soundCard(chain) : 'its own software modem';
    return item.app?.offers === 'modem ports' ? modem : `${modem}, 1200 baud AFSK`;
  }
  if (before?.signal === 'text') return 'the serial port, as text';
  if (before?.signal === 'modem ports') return 'the command and data ports of the modem program';
  return before ? `KISS over ${before.transport ?? 'the port'}` : undefined;
}

/** By what this chain keys: another keying is another chain. */
const KEYED: Partial<Record<Keying, string>> = {
  CAT: 'CAT: port and speed as in the radio’s menu',
  'serial line': 'the serial line of the interface',
  'chip pin': 'the pin of the interface’s sound chip',
  'steady tone': 'a steady tone on the other channel',
  VOX: 'none: the radio’s VOX opens on the sound',
  'by hand': 'by hand, for each packet',
};

export const APP: readonly Step[] = [
  {
    id: 'start',
    setting: 'Before it is opened',
    value: ({ kind }, item) =>
      where(
        kind.transmits && kind.toApp !== 'text' && !item.app?.isMistpeak,
        'antenna on; call and channel as above',
      ),
    reason: 'Some programs transmit as soon as they start.',
    check: 'The transmit lamp stays dark while it starts.',
  },
  ofTheEnd({
    id: 'call',
    setting: 'Call with SSID',
    value: (context) =>
      where(
        context.kind.transmits,
        context.kind.toApp === 'text' ? `${callOf(context)}, set at the prompt` : callOf(context),
      ),
    reason: CALL_REASON,
    check: 'Compare with the page Call signs; tests go out under the real call.',
    school: 'ssid',
  }),
  {
    id: 'device',
    setting: 'TNC or sound card',
    value: device,
    reason: 'It must open what this chain gives.',
    check: ({ kind }, item) =>
      item.app?.offers === 'modem ports'
        ? 'Its meter moves with the noise of the channel.'
        : kind.isPacket
          ? 'It says connected, and shows a packet.'
          : 'It says that the modem program is there.',
  },
  {
    id: 'flow',
    setting: 'Flow control',
    value: ({ chain }, item) => {
      const { before } = placeOf(chain, item);
      const isSerial = ['USB', 'RS-232', 'Bluetooth serial'].includes(before?.transport ?? '');
      return where(before?.signal === 'KISS' && isSerial && !item.app?.runsOn.includes('phone'), 'none');
    },
    reason: 'KISS is binary: XON and XOFF are data in it.',
    check: 'Long packets come whole.',
    source: KISS_SOURCE,
  },
  {
    id: 'tcpPort',
    setting: 'Address and port',
    value: ({ chain, linkAddress }, item) => {
      const { before } = placeOf(chain, item);
      if (item.app?.offers === 'KISS') return `port ${item.switches.tcpPort ?? '8001'}`;
      return before?.transport === 'TCP' && before.signal === 'KISS'
        ? (linkAddress ?? `the modem’s address, port ${portOf(chain, item)}`)
        : undefined;
    },
    reason: 'Programs come with different numbers; a mismatch gives silence.',
    check: 'Compare the number on both sides.',
    measures: 'address and port',
  },
  {
    id: 'ptt',
    setting: 'Keying',
    value: (context, item) =>
      isAtSound(context, item) && context.kind.keyedBy ? KEYED[context.kind.keyedBy] : undefined,
    reason:
      'A line keys at once, but needs an interface that has one; a tone needs a keying cable and takes one channel; VOX needs neither and loses the start of each packet until it opens. Another keying is another chain.',
    check: 'The transmit lamp is lit for as long as a test tone.',
  },
  {
    id: 'tone',
    setting: 'Keying tone',
    value: (context, item) =>
      where(
        isAtSound(context, item) && context.kind.keyedBy === 'steady tone',
        'above 10 kHz on the other channel; sample rate 44.1 or 48 kHz',
      ),
    reason:
      'In the voice band it leaks into the audio and nobody decodes; a lower sample rate does not carry it.',
    check: 'A second receiver hears the packet and no whistle.',
    measures: 'frequency, Hz',
  },
  {
    id: 'leadIn',
    setting: 'TXDELAY',
    value: (context, item) =>
      isAtSound(context, item) && context.kind.transmits && context.kind.isFm
        ? context.kind.keyedBy === 'VOX'
          ? '500 ms to begin with: VOX opens late'
          : '300 ms to begin with'
        : undefined,
    reason: 'From key-down to valid data; too short cuts the start of every packet.',
    check: ({ kind }) =>
      kind.isPacket
        ? 'A second receiver decodes the first packet of each try.'
        : 'The far station answers at the first call.',
    measures: 'ms that work',
  },
  {
    id: 'toneTest',
    setting: 'Test transmission',
    value: (context, item) =>
      where(
        isAtSound(context, item) && context.kind.transmits && context.kind.isFm,
        `a tone, then one ${context.kind.isPacket ? 'packet' : 'call'}, into a second receiver, after the levels are set`,
      ),
    reason: 'It shows that the key holds and how it sounds, before anybody is called.',
    check: ({ kind }) => `Clear, not harsh, without a gap${kind.isPacket ? '; the packet is decoded' : ''}.`,
  },
  ofTheEnd(PATH),
  ...BEACON.map((step) => ofTheEnd(step)),
  ...WAYS.map((step) => ofTheEnd(step, isOther)),
  {
    id: 'map',
    setting: 'Map of the area',
    value: ({ chain }, item) =>
      where(chain.purpose === 'map' && isOther(item), 'loaded at home, for use without internet'),
    reason: 'Where it is needed there is no network.',
    check: 'It is drawn in airplane mode.',
  },
  ...SESSION.map((step) => ofTheEnd(step)),
  {
    id: 'stand',
    setting: 'Where to stand',
    value: ({ kind, isMoving }, item) =>
      where(
        !isModem(item) && kind.transmits && kind.isFm && kind.isHandheld && !isMoving,
        'outside or at a window, as high as can be; out of the bottom of a valley',
      ),
    reason: 'Height does more than power; a ridge between lets nothing through.',
    check: ({ kind }) => (kind.isAprs ? 'An echo within a few tries.' : 'The far station answers.'),
  },
  {
    id: 'arm',
    setting: 'Transmit lock',
    value: (context, item) =>
      where(
        item.app?.isMistpeak === true && context.kind.transmits,
        `armed as ${callOf(context)}, when all above is ticked`,
      ),
    reason: 'Mistpeak starts receive-only.',
    check: 'The Bench lights “keyed”, then “repeated”.',
  },
];

/** The number on which the modem of this chain listens. */
function portOf({ stones }: SheetContext['chain'], item: Item): string {
  const modem = stones.find(({ item: one }) => one.app?.offers === 'KISS')?.item;
  return modem?.switches.tcpPort ?? item.switches.tcpPort ?? '8001';
}
