import type { LibraryKind } from '../kit/library.js';
import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import type { Level } from './chain.js';

/** A kit that lacks a part, has another in its place, or has a switch elsewhere; and the rule that must say so. */
export interface Variant {
  readonly what: string;
  readonly without?: LibraryKind;
  readonly instead?: LibraryKind;
  readonly change?: readonly [LibraryKind, Partial<Item>];
  readonly rule: string;
  readonly level: Level;
}

/** A chain that people really build: the parts from radio to app, and how it fails. Common practice, no source. */
export interface BuiltChain {
  readonly id: string;
  readonly what: string;
  readonly purpose: Purpose;
  readonly parts: readonly LibraryKind[];
  /** Switches that a working kit has. */
  readonly set?: Readonly<Partial<Record<LibraryKind, Item['switches']>>>;
  readonly variants: readonly Variant[];
}

const missing = (without: LibraryKind): Variant => ({
  what: `without ${without}`,
  without,
  rule: 'part-missing',
  level: 'breaks',
});
const switched = (what: string, kind: LibraryKind, switches: Item['switches'], rule: string): Variant => ({
  what,
  change: [kind, { switches }],
  rule,
  level: 'switch',
});

const KISS_ON = { kiss: 'on', ownBeacon: 'off' } as const;
const QUIET = { sounds: 'muted' } as const;

export const FIFTEEN: readonly BuiltChain[] = [
  {
    id: 'A',
    what: 'phone with only a digital audio jack, analogue dongle, VOX-keying cable',
    purpose: 'messages',
    parts: [
      'two-pin-handheld',
      'keying-two-pin',
      'vox-keying-cable',
      'analogue-dongle',
      'le-phone',
      'phone-map-le',
    ],
    set: { 'le-phone': QUIET },
    variants: [
      missing('analogue-dongle'),
      missing('keying-two-pin'),
      {
        what: 'a dongle of a third party',
        without: 'analogue-dongle',
        instead: 'third-party-dongle',
        rule: 'unproven-part',
        level: 'risk',
      },
      {
        what: 'with sounds on',
        change: ['le-phone', { switches: { sounds: 'on' } }],
        rule: 'notification-sounds',
        level: 'risk',
      },
    ],
  },
  {
    id: 'B',
    what: 'USB sound-and-PTT dongle straight into a two-pin handheld',
    purpose: 'beacon',
    parts: ['two-pin-handheld', 'sound-dongle', 'laptop', 'modem-program', 'desk-map'],
    variants: [
      missing('sound-dongle'),
      missing('modem-program'),
      switched('the modem held by a game', 'modem-program', { heldBy: 'another program' }, 'held'),
    ],
  },
  {
    id: 'C',
    what: 'passive cable to a headset jack, keyed by VOX',
    purpose: 'mail',
    parts: ['two-pin-handheld', 'headset-cable', 'tablet', 'phone-mail'],
    set: { 'two-pin-handheld': { vox: 'on' }, tablet: QUIET },
    variants: [
      switched('VOX off', 'two-pin-handheld', { vox: 'off' }, 'vox-off'),
      {
        what: 'an adapter that fits and does not key',
        without: 'headset-cable',
        instead: 'listening-adapter',
        rule: 'not-keyed',
        level: 'breaks',
      },
    ],
  },
  {
    id: 'D',
    what: 'handheld with a built-in Bluetooth TNC to a phone',
    purpose: 'messages',
    parts: ['tnc-handheld', 'phone', 'phone-map'],
    set: { 'tnc-handheld': KISS_ON },
    variants: [
      switched('KISS off', 'tnc-handheld', { kiss: 'off' }, 'kiss-off'),
      switched('own beaconing on', 'tnc-handheld', { ownBeacon: 'on' }, 'own-beacon'),
      switched('data sounds muted', 'tnc-handheld', { dataSounds: 'muted' }, 'data-sounds'),
      switched('in digital voice', 'tnc-handheld', { mode: 'digital voice' }, 'mode'),
      {
        what: 'old firmware',
        change: ['tnc-handheld', { version: '1.1' }],
        rule: 'firmware',
        level: 'switch',
      },
    ],
  },
  {
    id: 'E',
    what: 'handheld whose TNC key goes through its modes',
    purpose: 'beacon',
    parts: ['tnc-key-handheld', 'phone', 'phone-map'],
    set: { 'tnc-key-handheld': { ...KISS_ON, kissTo: 'Bluetooth' } },
    variants: [
      switched('TNC on the other band', 'tnc-key-handheld', { tncBand: 'B' }, 'tnc-band'),
      switched('KISS to USB', 'tnc-key-handheld', { kissTo: 'USB' }, 'kiss-transport'),
      switched('KISS at 9600', 'tnc-key-handheld', { kissRate: '9600' }, 'kiss-rate'),
    ],
  },
  {
    id: 'F',
    what: 'the same radio to a phone that has Bluetooth LE only, by a bridge',
    purpose: 'beacon',
    parts: ['tnc-key-handheld', 'bluetooth-bridge', 'le-phone', 'phone-map-le'],
    set: { 'tnc-key-handheld': { ...KISS_ON, kissTo: 'Bluetooth' } },
    variants: [{ what: 'directly', without: 'bluetooth-bridge', rule: 'serial-profile', level: 'breaks' }],
  },
  {
    id: 'G',
    what: 'pocket Bluetooth TNC and radio cable',
    purpose: 'messages',
    parts: ['two-pin-handheld', 'tnc-two-pin', 'pocket-tnc', 'phone', 'phone-map'],
    variants: [
      missing('tnc-two-pin'),
      switched('paired with the laptop', 'pocket-tnc', { pairedWith: 'Laptop' }, 'paired-elsewhere'),
      switched('held by another app', 'pocket-tnc', { heldBy: 'Radio mail app' }, 'held'),
    ],
  },
  {
    id: 'H',
    what: 'Bluetooth TNC to a computer as a serial port',
    purpose: 'beacon',
    parts: ['fm-mobile', 'tnc-six-pin', 'pocket-tnc', 'laptop', 'mistpeak'],
    variants: [
      missing('tnc-six-pin'),
      {
        what: 'to a desktop without Bluetooth',
        without: 'laptop',
        instead: 'desktop',
        rule: 'part-missing',
        level: 'breaks',
      },
    ],
  },
  {
    id: 'I',
    what: 'software modem on another computer, network KISS to a map program',
    purpose: 'map',
    parts: ['fm-mobile', 'sound-interface', 'single-board', 'modem-program', 'laptop', 'desk-map'],
    variants: [
      switched('the ports differ', 'desk-map', { tcpPort: '8100' }, 'tcp-port'),
      switched('the laptop on no network', 'laptop', { wireless: 'off' }, 'network'),
    ],
  },
  {
    id: 'J',
    what: 'small computer without a screen, its own hotspot, to a phone',
    purpose: 'messages',
    parts: ['fm-mobile', 'sound-interface', 'headless-12v', 'modem-program', 'phone', 'phone-map'],
    set: { 'headless-12v': { wireless: 'own hotspot', sounds: 'muted' } },
    variants: [
      missing('modem-program'),
      switched('the hotspot off', 'headless-12v', { wireless: 'off' }, 'network'),
    ],
  },
  {
    id: 'K',
    what: 'HF transceiver, sound and CAT, sound modem program, mail program',
    purpose: 'sound mail',
    parts: ['hf-transceiver', 'usb-c-to-a', 'laptop', 'virtual-modem', 'desk-mail'],
    variants: [
      switched('in FM', 'hf-transceiver', { mode: 'FM' }, 'mode'),
      { what: 'without its cable', without: 'usb-c-to-a', rule: 'part-missing', level: 'breaks' },
    ],
  },
  {
    id: 'L',
    what: 'serial TNC with a mailbox, USB-serial adapter, 9-to-25-pin cable, terminal program',
    purpose: 'session',
    parts: ['fm-mobile', 'tnc-six-pin', 'serial-tnc', 'serial-9-25', 'usb-serial', 'laptop', 'terminal'],
    variants: [missing('serial-9-25'), missing('usb-serial')],
  },
  {
    id: 'M',
    what: 'vehicle: old phone without service, pocket TNC, FM mobile on a separate battery',
    purpose: 'map',
    parts: ['fm-mobile', 'tnc-six-pin', 'pocket-tnc', 'old-phone', 'phone-map'],
    variants: [
      {
        what: 'with the app that opens LE only',
        without: 'phone-map',
        instead: 'phone-map-le',
        rule: 'app-opens',
        level: 'breaks',
      },
    ],
  },
  {
    id: 'N',
    what: 'loudspeaker held to a microphone',
    purpose: 'receive',
    parts: ['two-pin-handheld', 'tablet', 'phone-map-le'],
    variants: [{ what: 'as it is', rule: 'open-air', level: 'risk' }],
  },
  {
    id: 'O',
    what: 'the radio alone with its own tracker',
    purpose: 'beacon',
    parts: ['tnc-handheld'],
    variants: [
      switched('own beaconing off', 'tnc-handheld', { ownBeacon: 'off' }, 'alone-ownBeacon'),
      switched('KISS on', 'tnc-handheld', { kiss: 'on' }, 'alone-kiss'),
    ],
  },
];
