import type { Item } from '../../kit/item.js';
import type { SheetContext } from '../context.js';
import { placeOf } from '../kind-of-chain.js';
import { BEACON, PATH } from './aprs.js';
import { CALL_REASON, callOf, KISS_SOURCE, switched, where, type Step } from './step.js';
import { HELD } from './wiring.js';

function frequency({ kind, channelMHz }: SheetContext): string {
  if (!kind.isFm) return 'the gateway’s dial frequency, from the list';
  if (kind.isPeerMail || kind.isSession) return 'the channel agreed with the far station';
  if (kind.isGatewayMail) return 'the gateway’s channel, from the list';
  return channelMHz === undefined ? 'the APRS channel of the region' : `${channelMHz.toFixed(3)} MHz`;
}

/** Sound leaves by a plug that follows the volume knob. */
const followsVolume = ({ chain, kind }: SheetContext, item: Item): boolean =>
  kind.fromRadio === 'audio' &&
  kind.isFm &&
  placeOf(chain, item).leavesBy !== 'six-pin' &&
  !isUsb(chain, item);
const isUsb = (chain: SheetContext['chain'], item: Item): boolean =>
  ['usb-a', 'usb-c'].includes(placeOf(chain, item).leavesBy ?? '');
const otherBand = (band: string): string => (band === 'A' ? 'B' : 'A');

export const RADIO: readonly Step[] = [
  {
    id: 'antenna',
    setting: 'Antenna',
    value: ({ kind }) => where(kind.transmits, 'connected, or a dummy load'),
    reason: 'Keying without one can destroy the transmitter.',
    check: 'Look at it before anything can key.',
  },
  {
    id: 'supply',
    isCare: true,
    setting: 'Supply',
    value: (_, item) =>
      where(
        item.radio?.transmits === true && item.drawMilliamps !== undefined,
        'a fuse at both ends of a long run, and at each outlet one below the wire’s rating',
      ),
    reason: 'A battery feeds a short circuit until something burns.',
    check: 'Each fuse seen; battery strapped down and ventilated; nothing metal can fall across the posts.',
  },
  {
    id: 'isolator',
    setting: 'Equipment battery',
    value: ({ isMoving }, item) =>
      where(
        isMoving && item.radio?.transmits === true && item.drawMilliamps !== undefined,
        'of its own, isolated from the starter battery when the engine is off',
      ),
    reason: 'Else the set that always listens leaves you standing.',
    check: 'Its voltage after an hour of rest; under load it says nothing of the charge.',
    measures: 'rested voltage, V',
  },
  {
    id: 'vfo',
    isCare: true,
    setting: 'VFO or memory',
    value: (_, item) =>
      where(item.radio?.transmits === true, 'the one that you will use, before anything else'),
    reason: 'Some menus switch between them without a word, and what was set is then in the other.',
    check: 'The display shows the same after each step.',
  },
  {
    id: 'band',
    setting: 'Band on the channel',
    value: (_, item) => item.switches.band,
    reason: 'A set with two bands has two channels: this one carries the data.',
    check: 'The meter of that band moves when a packet comes.',
  },
  {
    id: 'tncBand',
    setting: 'Band of the TNC',
    value: (_, { switches }) => where(switches.tncBand !== undefined, switches.band ?? 'that of the channel'),
    reason: 'A TNC listens to one of the two bands.',
    check: 'The display marks the TNC at that band.',
  },
  {
    id: 'voice',
    setting: 'Voice channel',
    value: (_, { switches }) =>
      where(switches.band !== undefined, `on band ${otherBand(switches.band ?? '')}`),
    reason: 'Voice and data on one channel disturb each other.',
    check: 'Turn the knob: the data channel stays.',
  },
  {
    id: 'frequency',
    setting: 'Frequency',
    value: frequency,
    reason: ({ kind }) =>
      kind.isAprs
        ? 'The channel of the region; band plans change, and the local one is in force.'
        : 'Each far station has its own; band plans change, and the local one is in force.',
    check: ({ kind }) => (kind.isAprs ? 'Short rasping bursts are heard.' : 'Listen before you call.'),
    source: 'regional band plans',
  },
  {
    id: 'tuning',
    setting: 'Frequency is set',
    value: (context) => where(context.kind.keyedBy === 'CAT', context.option('tuning')),
    reason: 'Calling one station after the other means setting it often.',
    check: 'The display shows what the list says.',
    school: 'tuning',
  },
  {
    id: 'dataChannel',
    setting: 'Data channel',
    value: (context) => where(context.kind.fromRadio === 'KISS', context.option('dataChannel')),
    reason: 'A TNC inside the set can follow what is displayed, or stay where it was put.',
    check: 'Turn the knob: data stays where it should.',
    school: 'dataChannel',
  },
  {
    id: 'mode',
    setting: 'Mode',
    value: ({ kind }, item) =>
      where(item.radio?.transmits === true, kind.isFm ? 'FM' : 'upper sideband data'),
    reason: ({ kind }) =>
      kind.isFm
        ? 'In digital voice nothing of a packet gets through.'
        : 'Only there the tones pass as they are.',
    check: 'The display says so.',
  },
  {
    id: 'squelch',
    setting: 'Squelch',
    value: (context, item) =>
      where(context.kind.isFm && item.radio?.transmits === true, context.option('squelch')),
    reason: ({ kind }) =>
      kind.isSound && kind.transmits
        ? 'Too tight loses the start of every packet. Open, a modem app that listens by ear takes the noise for a busy channel, and never transmits.'
        : 'Too tight loses the start of every packet.',
    check: ({ kind }) =>
      kind.isAprs ? 'The start of each burst is heard.' : 'If sessions fail, lower it first.',
    school: 'squelch',
  },
  {
    id: 'vox',
    setting: 'VOX',
    value: (context) => where(context.kind.keyedBy === 'VOX', `on; ${context.option('vox')}`),
    reason: 'Which end of its scale is sensitive differs between radios, so that the number says nothing.',
    check: 'The transmit lamp stays lit for a whole packet, and is dark between.',
    school: 'vox',
    measures: 'the setting that holds',
  },
  {
    id: 'bandwidth',
    setting: 'Bandwidth',
    value: (context, item) =>
      where(context.kind.isFm && item.radio?.transmits === true, context.option('bandwidth')),
    reason: 'The local band plan says which is right on that channel.',
    check: 'Packets of strong stations decode.',
    school: 'bandwidth',
  },
  {
    id: 'power',
    setting: 'Power',
    value: (context) => where(context.kind.transmits, context.option('power')),
    reason: 'Enough to be heard, no more.',
    check: ({ kind }) => (kind.isAprs ? 'An echo comes.' : 'The far station answers.'),
    school: 'power',
  },
  {
    id: 'tail',
    isCare: true,
    setting: 'Squelch-tail removal',
    value: ({ kind }, item) => where(kind.isFm && item.radio?.transmits === true, 'off'),
    reason: 'It cuts the end of the packet.',
    check: 'The menu says off.',
  },
  {
    id: 'noise',
    isCare: true,
    setting: 'Noise reduction',
    value: (_, item) => where(item.radio?.transmits === true, 'off'),
    reason: 'It changes the level that is needed, and distorts data.',
    check: 'The menu says off.',
  },
  {
    id: 'dataSounds',
    setting: 'Data sounds',
    value: ({ kind, option }, item) =>
      kind.fromRadio === 'KISS' ? switched(item, 'dataSounds', option('dataSounds')) : undefined,
    reason: 'On some sets muting them silences the data too.',
    check: 'A packet that is heard is also shown.',
    school: 'dataSounds',
  },
  {
    id: 'ownBeacon',
    setting: 'Own beaconing',
    value: ({ kind }, item) =>
      kind.fromRadio === 'KISS' ? switched(item, 'ownBeacon', kind.isAlone ? 'on' : 'off') : undefined,
    reason: 'The radio’s own APRS and KISS exclude each other.',
    check: ({ kind }) =>
      kind.isAlone ? 'Its display counts to the next beacon.' : 'Its display counts to no beacon.',
  },
  {
    id: 'kiss',
    setting: 'KISS',
    value: ({ kind }, item) =>
      kind.isAlone ? switched(item, 'kiss', 'off') : where(kind.fromRadio === 'KISS', 'on'),
    reason: ({ kind }) =>
      kind.isAlone ? 'It would take the TNC away from the radio’s own APRS.' : 'An app drives the TNC by it.',
    check: ({ kind }) =>
      kind.isAlone ? 'The display shows its own APRS.' : 'The display shows KISS at the band of the channel.',
    source: KISS_SOURCE,
  },
  {
    id: 'kissRate',
    setting: 'Data speed',
    value: ({ kind }) => where(kind.fromRadio === 'KISS', '1200 baud'),
    reason: '9600 works only where both ends do it.',
    check: 'Packets of others are shown.',
  },
  {
    id: 'kissTo',
    setting: 'KISS goes to',
    value: ({ chain, kind }, item) =>
      !kind.isAlone && kind.fromRadio === 'KISS'
        ? switched(item, 'kissTo', placeOf(chain, item).leavesBy === 'bluetooth' ? 'Bluetooth' : 'USB')
        : undefined,
    reason: 'Only one of the two ways has it.',
    check: 'Something comes on the host when a packet is heard.',
  },
  {
    ...HELD,
    value: ({ kind }) => where(!kind.isAlone && kind.fromRadio === 'KISS', 'one program only'),
  },
  {
    id: 'format',
    setting: 'Packet format',
    value: ({ kind }) => where(kind.isAlone, 'standard APRS, not the maker’s own'),
    reason: 'Others read only the standard form.',
    check: 'Another station shows it.',
    source: 'APRS Protocol Reference 1.0.1',
  },
  {
    id: 'call',
    setting: 'Call with SSID',
    value: (context) => where(context.kind.isAlone, callOf(context)),
    reason: CALL_REASON,
    check: 'Compare with the page Call signs.',
    school: 'ssid',
  },
  ...[PATH, ...BEACON].map((step): Step => ({
    ...step,
    value: (context, item) => (context.kind.isAlone ? step.value(context, item) : undefined),
  })),
  {
    id: 'output',
    setting: 'Audio output',
    value: ({ chain, kind }, item) =>
      where(
        placeOf(chain, item).leavesBy === 'six-pin',
        !kind.isPacket
          ? 'flat (discriminator), unless that modem’s guide says otherwise'
          : 'flat (discriminator), for 1200 baud',
      ),
    reason: 'De-emphasised loudspeaker audio has the high tones too weak, at 2200 Hz by 5 dB against 1200.',
    check: ({ kind }) =>
      !kind.isPacket
        ? 'The far station reports no better signal with the other.'
        : 'Both tones are equally strong.',
  },
  {
    id: 'volume',
    setting: 'Volume',
    value: (context, item) =>
      followsVolume(context, item)
        ? context.kind.isSound
          ? context.option('receiveLevel')
          : 'up from low, until no packet more is decoded'
        : undefined,
    reason: 'The knob is often the power knob too: it is wrong after each power cycle.',
    check: ({ kind }) =>
      kind.isSound
        ? 'The level stays inside the window through several packets.'
        : 'Count packets of one station.',
    school: ({ kind }) => (kind.isSound ? 'receiveLevel' : undefined),
    measures: 'RMS level, dBFS',
  },
  {
    id: 'drive',
    setting: 'Drive',
    value: (context) => where(!context.kind.isFm && context.kind.transmits, context.option('drive')),
    reason: 'Too much makes a wide signal that fewer can read.',
    check: 'Watch the ALC meter through a whole transmission.',
    school: 'drive',
    measures: 'ALC reading',
  },
];
