import type { Item } from '../kit/item.js';
import { fromLibrary, type LibraryKind } from '../kit/library.js';
import type { Purpose } from '../proof/ladder.js';

/** A chain that people really build: the parts from radio to app. Common practice, no source. */
export interface UsualChain {
  readonly id: string;
  readonly what: string;
  readonly purpose: Purpose;
  readonly parts: readonly LibraryKind[];
  /** Switches that a working kit has. */
  readonly set?: Readonly<Partial<Record<LibraryKind, Item['switches']>>>;
}

const KISS_ON = { kiss: 'on', ownBeacon: 'off' } as const;
const QUIET = { sounds: 'muted' } as const;

export const USUAL_CHAINS: readonly UsualChain[] = [
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
  },
  {
    id: 'B',
    what: 'USB sound-and-PTT dongle straight into a two-pin handheld',
    purpose: 'beacon',
    parts: ['two-pin-handheld', 'sound-dongle', 'laptop', 'modem-program', 'desk-map'],
  },
  {
    id: 'C',
    what: 'passive cable to a headset jack, keyed by VOX',
    purpose: 'mail',
    parts: ['two-pin-handheld', 'headset-cable', 'tablet', 'phone-mail'],
    set: { 'two-pin-handheld': { vox: 'on' }, tablet: QUIET },
  },
  {
    id: 'D',
    what: 'handheld with a built-in Bluetooth TNC to a phone',
    purpose: 'messages',
    parts: ['tnc-handheld', 'phone', 'phone-map'],
    set: { 'tnc-handheld': KISS_ON },
  },
  {
    id: 'E',
    what: 'handheld whose TNC key goes through its modes',
    purpose: 'beacon',
    parts: ['tnc-key-handheld', 'phone', 'phone-map'],
    set: { 'tnc-key-handheld': { ...KISS_ON, kissTo: 'Bluetooth' } },
  },
  {
    id: 'F',
    what: 'the same radio to a phone that has Bluetooth LE only, by a bridge',
    purpose: 'beacon',
    parts: ['tnc-key-handheld', 'bluetooth-bridge', 'le-phone', 'phone-map-le'],
    set: { 'tnc-key-handheld': { ...KISS_ON, kissTo: 'Bluetooth' } },
  },
  {
    id: 'G',
    what: 'pocket Bluetooth TNC and radio cable',
    purpose: 'messages',
    parts: ['two-pin-handheld', 'tnc-two-pin', 'pocket-tnc', 'phone', 'phone-map'],
  },
  {
    id: 'H',
    what: 'Bluetooth TNC to a computer as a serial port',
    purpose: 'beacon',
    parts: ['fm-mobile', 'tnc-six-pin', 'pocket-tnc', 'laptop', 'mistpeak'],
  },
  {
    id: 'I',
    what: 'software modem on another computer, network KISS to a map program',
    purpose: 'map',
    parts: ['fm-mobile', 'sound-interface', 'single-board', 'modem-program', 'laptop', 'desk-map'],
  },
  {
    id: 'J',
    what: 'small computer without a screen, its own hotspot, to a phone',
    purpose: 'messages',
    parts: ['fm-mobile', 'sound-interface', 'headless-12v', 'modem-program', 'phone', 'phone-map'],
    set: { 'headless-12v': { wireless: 'own hotspot', sounds: 'muted' } },
  },
  {
    id: 'K',
    what: 'HF transceiver, sound and CAT, sound modem program, mail program',
    purpose: 'sound mail',
    parts: ['hf-transceiver', 'usb-c-to-a', 'laptop', 'virtual-modem', 'desk-mail'],
  },
  {
    id: 'L',
    what: 'serial TNC with a mailbox, USB-serial adapter, 9-to-25-pin cable, terminal program',
    purpose: 'session',
    parts: ['fm-mobile', 'tnc-six-pin', 'serial-tnc', 'serial-9-25', 'usb-serial', 'laptop', 'terminal'],
  },
  {
    id: 'M',
    what: 'vehicle: old phone without service, pocket TNC, FM mobile on a separate battery',
    purpose: 'map',
    parts: ['fm-mobile', 'tnc-six-pin', 'pocket-tnc', 'old-phone', 'phone-map'],
  },
  {
    id: 'N',
    what: 'loudspeaker held to a microphone',
    purpose: 'receive',
    parts: ['two-pin-handheld', 'tablet', 'phone-map-le'],
  },
  {
    id: 'O',
    what: 'the radio alone with its own tracker',
    purpose: 'beacon',
    parts: ['tnc-handheld'],
  },
];

/** What whoever builds that chain owns, its switches as they must stand. */
export const kitOfUsual = ({ parts, set }: UsualChain): Item[] =>
  parts.map((kind) => {
    const item = fromLibrary(kind);
    return { ...item, switches: { ...item.switches, ...set?.[kind] } };
  });
