import type { UsualChain } from './usual-chains.js';

/** Ten chains more that can be built of the library; they bring together what the fifteen do not. Made up for the tests. */
export const TEN_MORE: readonly UsualChain[] = [
  {
    id: 'P',
    what: 'radio mail over the keying cable of a phone',
    purpose: 'mail',
    parts: ['two-pin-handheld', 'keying-two-pin', 'vox-keying-cable', 'phone', 'phone-mail'],
  },
  {
    id: 'Q',
    what: 'radio mail by a TNC that speaks Bluetooth LE',
    purpose: 'mail',
    parts: ['fm-mobile', 'tnc-six-pin', 'le-tnc', 'le-phone', 'phone-mail'],
  },
  {
    id: 'R',
    what: 'fixed station on a single-board computer',
    purpose: 'beacon',
    parts: ['fm-mobile', 'six-pin-cable', 'usb-packet-modem', 'single-board', 'mistpeak'],
  },
  {
    id: 'S',
    what: 'receive-only software radio at a desk',
    purpose: 'map',
    parts: ['receive-only-radio', 'laptop', 'modem-program', 'desk-map'],
  },
  {
    id: 'T',
    what: 'a radio with a message page of its own',
    purpose: 'messages',
    parts: ['tnc-key-handheld'],
  },
  {
    id: 'U',
    what: 'mail from station to station',
    purpose: 'peer mail',
    parts: ['fm-mobile', 'tnc-six-pin', 'pocket-tnc', 'laptop', 'desk-mail'],
  },
  {
    id: 'V',
    what: 'modem on a small computer, Mistpeak on another',
    purpose: 'beacon',
    parts: ['fm-mobile', 'sound-interface', 'single-board', 'modem-program', 'laptop', 'mistpeak'],
  },
  {
    id: 'W',
    what: 'mail by sound modem on VHF',
    purpose: 'sound mail',
    parts: ['fm-mobile', 'sound-interface', 'laptop', 'virtual-modem', 'desk-mail'],
  },
  {
    id: 'X',
    what: 'dongle at a tablet, keyed by VOX, on the move',
    purpose: 'beacon',
    parts: ['two-pin-handheld', 'sound-dongle', 'usb-host-adapter', 'tablet', 'phone-map-le'],
  },
  {
    id: 'Y',
    what: 'packet session from a laptop by the TNC of a handheld',
    purpose: 'session',
    parts: ['tnc-handheld', 'laptop', 'desk-mail'],
  },
];
