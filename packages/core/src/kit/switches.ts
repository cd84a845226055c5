/** What can be set on an item and decides whether a chain works. options: the usual ones; any text may stand there. */
export interface SwitchFacts {
  readonly name: string;
  readonly options: readonly string[];
  readonly about: string;
}

export const SWITCHES = {
  kiss: { name: 'KISS', options: ['off', 'on'], about: 'the TNC of the radio for an app' },
  kissTo: {
    name: 'KISS goes to',
    options: ['USB', 'Bluetooth'],
    about: 'the wire or the wireless way; only one has it',
  },
  kissRate: { name: 'KISS rate', options: ['1200', '9600'], about: 'baud on the air' },
  ownBeacon: {
    name: 'Own beaconing',
    options: ['off', 'on'],
    about: 'the radio’s own APRS; it and KISS exclude each other',
  },
  band: { name: 'Band on the channel', options: ['A', 'B'], about: 'the band that has the data channel' },
  tncBand: { name: 'Band of the TNC', options: ['A', 'B'], about: 'the band that the TNC listens to' },
  mode: { name: 'Mode', options: ['FM', 'digital voice', 'upper sideband data'], about: '' },
  vox: { name: 'VOX', options: ['off', 'on'], about: 'transmits when sound comes' },
  dataSounds: {
    name: 'Data sounds',
    options: ['heard', 'muted'],
    about: 'on some sets muting silences the data too',
  },
  heldBy: { name: 'Held by', options: [], about: 'a program that has it open, perhaps in the background' },
  pairedWith: { name: 'Paired with', options: [], about: 'the host that it connects to by itself' },
  wireless: {
    name: 'Network',
    options: ['off', 'joined', 'own hotspot'],
    about: 'how it reaches other computers',
  },
  tcpPort: {
    name: 'KISS port',
    options: [],
    about: 'a number, as the program shows it; both sides must agree',
  },
  sounds: { name: 'Notification sounds', options: ['on', 'muted'], about: 'they go on the air' },
} as const satisfies Record<string, SwitchFacts>;

export type SwitchId = keyof typeof SWITCHES;

export const isSwitchId = (text: string): text is SwitchId => Object.hasOwn(SWITCHES, text);
