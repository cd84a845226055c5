import type { LibraryKind } from '../kit/library.js';
import type { Item } from '../kit/item.js';
import type { Level } from './chain.js';
import { USUAL_CHAINS, type UsualChain } from './usual-chains.js';

/** A kit that lacks a part, has another in its place, or has a switch elsewhere; and the rule that must say so. */
export interface Variant {
  readonly what: string;
  readonly without?: LibraryKind;
  readonly instead?: LibraryKind;
  readonly change?: readonly [LibraryKind, Partial<Item>];
  readonly rule: string;
  readonly level: Level;
}

/** A usual chain, and how it fails. */
export interface BuiltChain extends UsualChain {
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

const VARIANTS: Readonly<Record<string, readonly Variant[]>> = {
  A: [
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
  B: [
    missing('sound-dongle'),
    missing('modem-program'),
    switched('the modem held by another program', 'modem-program', { heldBy: 'another program' }, 'held'),
  ],
  C: [
    switched('VOX off', 'two-pin-handheld', { vox: 'off' }, 'vox-off'),
    {
      what: 'an adapter that fits and does not key',
      without: 'headset-cable',
      instead: 'listening-adapter',
      rule: 'not-keyed',
      level: 'breaks',
    },
  ],
  D: [
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
  E: [
    switched('TNC on the other band', 'tnc-key-handheld', { tncBand: 'B' }, 'tnc-band'),
    switched('KISS to USB', 'tnc-key-handheld', { kissTo: 'USB' }, 'kiss-transport'),
    switched('KISS at 9600', 'tnc-key-handheld', { kissRate: '9600' }, 'kiss-rate'),
  ],
  F: [{ what: 'directly', without: 'bluetooth-bridge', rule: 'serial-profile', level: 'breaks' }],
  G: [
    missing('tnc-two-pin'),
    switched('paired with the laptop', 'pocket-tnc', { pairedWith: 'Laptop' }, 'paired-elsewhere'),
    switched('held by another app', 'pocket-tnc', { heldBy: 'Radio mail app' }, 'held'),
  ],
  H: [
    missing('tnc-six-pin'),
    {
      what: 'to a desktop without Bluetooth',
      without: 'laptop',
      instead: 'desktop',
      rule: 'part-missing',
      level: 'breaks',
    },
  ],
  I: [
    switched('the ports differ', 'desk-map', { tcpPort: '8100' }, 'tcp-port'),
    switched('the laptop on no network', 'laptop', { wireless: 'off' }, 'network'),
  ],
  J: [missing('modem-program'), switched('the hotspot off', 'headless-12v', { wireless: 'off' }, 'network')],
  K: [
    switched('in FM', 'hf-transceiver', { mode: 'FM' }, 'mode'),
    { what: 'without its cable', without: 'usb-c-to-a', rule: 'part-missing', level: 'breaks' },
  ],
  L: [missing('serial-9-25'), missing('usb-serial')],
  M: [
    {
      what: 'with the app that opens LE only',
      without: 'phone-map',
      instead: 'phone-map-le',
      rule: 'app-opens',
      level: 'breaks',
    },
  ],
  N: [{ what: 'as it is', rule: 'open-air', level: 'risk' }],
  O: [
    switched('own beaconing off', 'tnc-handheld', { ownBeacon: 'off' }, 'alone-ownBeacon'),
    switched('KISS on', 'tnc-handheld', { kiss: 'on' }, 'alone-kiss'),
  ],
};

export const FIFTEEN: readonly BuiltChain[] = USUAL_CHAINS.map((chain) => ({
  ...chain,
  variants: VARIANTS[chain.id] ?? [],
}));
