import { fromLibrary } from '@mistpeak/core/kit/library';
import type { Item } from '@mistpeak/core/kit/item';

const FIELD_DRAW = { drawMilliamps: 0 };

/** What the island radio group owns; the first five are the chain in the base hut, radio to app. Invented. */
export const EQUIPMENT: readonly Item[] = [
  fromLibrary('fm-mobile', 'hut-radio', { about: 'in the base hut, on the mast antenna' }),
  fromLibrary('six-pin-cable', 'hut-cable'),
  fromLibrary('usb-packet-modem', 'hut-modem'),
  fromLibrary('single-board', 'hut-computer', {
    name: 'Base hut computer',
    about: 'single-board computer, USB, wireless',
  }),
  fromLibrary('mistpeak'),
  fromLibrary('tnc-key-handheld', 'key-handheld', { version: '1.3' }),
  fromLibrary('two-pin-handheld'),
  fromLibrary('tnc-handheld', 'tnc-handheld', { version: '1.4' }),
  fromLibrary('headset-cable'),
  fromLibrary('usb-c-to-a'),
  fromLibrary('tablet'),
  fromLibrary('le-phone'),
  fromLibrary('laptop', 'laptop', FIELD_DRAW),
  fromLibrary('phone-map'),
  fromLibrary('phone-mail'),
  fromLibrary('desk-mail'),
  fromLibrary('modem-program'),
  fromLibrary('roof-vertical'),
  fromLibrary('whip'),
];
