import type { Connector, End, Signal, Transport } from './connectors.js';
import type {
  AntennaFacts,
  AppFacts,
  AppTask,
  HostClass,
  Item,
  Keying,
  Port,
  RadioFacts,
  Source,
  Way,
} from './item.js';
import type { SwitchId } from './switches.js';

/**
 * Generic kinds to start a kit from, by capability. What they can do is common practice, no source; a real one may
 * differ, and every field can be edited.
 */
type Sort = Omit<Item, 'id' | 'isHere'>;
type Switches = Readonly<Partial<Record<SwitchId, string>>>;

const port = (id: string, connector: Connector, end: End, more: Partial<Port> = {}): Port => ({
  id,
  connector,
  end,
  ...more,
});
const usbHost = (connector: 'usb-a' | 'usb-c', id = 'USB'): Port =>
  port(id, connector, 'socket', { usb: 'host' });
const bluetooth = (...profiles: ('serial' | 'LE')[]): Port =>
  port('Bluetooth', 'bluetooth', 'either', { profiles });
const network = port('network', 'network', 'either');

const passes = (from: string, to: string, ...keyings: Keying[]): Way => ({
  from,
  to,
  keys: keyings.map((keying) => [keying, keying]),
});
const modemWay = (from: string, to: string): Way => ({
  from,
  to,
  turns: ['audio', 'KISS'],
  keys: [
    ['PTT line', 'TNC'],
    ['VOX', 'TNC'],
  ],
});

function radio(
  name: string,
  about: string,
  ports: readonly Port[],
  sources: readonly Source[],
  facts: Partial<RadioFacts> = {},
  switches: Switches = {},
  drawMilliamps?: number,
): Sort {
  return {
    kind: 'radio',
    name,
    about,
    ports,
    ways: [],
    switches: { mode: 'FM', ...switches },
    radio: { bands: ['VHF FM'], transmits: true, hasTracker: false, sources, ...facts },
    ...(drawMilliamps === undefined ? {} : { drawMilliamps }),
  };
}

const audioAt = (at: string, ...keying: Keying[]): Source => ({ port: at, gives: 'audio', keying });
const kissAt = (at: string, since?: string): Source => ({
  port: at,
  gives: 'KISS',
  keying: ['TNC'],
  ...(since ? { since } : {}),
});

const AIR_ENDS = [port('loudspeaker', 'open-air', 'plug')];
const HEARD = audioAt('loudspeaker', 'by hand');

const RADIOS = {
  'two-pin-handheld': radio(
    'Two-pin analogue handheld, 5 W',
    'VOX, PTT in the plug, no TNC',
    [port('two-pin', 'two-pin', 'socket'), ...AIR_ENDS],
    [audioAt('two-pin', 'PTT line', 'VOX'), HEARD],
    { watts: 5 },
    { vox: 'off' },
  ),
  'tnc-handheld': radio(
    'Handheld with built-in Bluetooth TNC',
    'KISS by a switch in its menu, own position beacon',
    [bluetooth('serial'), port('two-pin', 'two-pin', 'socket'), ...AIR_ENDS],
    [kissAt('Bluetooth', '1.2'), audioAt('two-pin', 'PTT line', 'VOX'), HEARD],
    { watts: 5, hasTracker: true },
    { kiss: 'off', ownBeacon: 'on', vox: 'off', dataSounds: 'heard' },
  ),
  'tnc-key-handheld': radio(
    'Dual-band handheld with a TNC key',
    'one key for own APRS and KISS, at 1200 or 9600; own message page',
    [bluetooth('serial'), port('USB', 'usb-c', 'socket', { usb: 'device' }), ...AIR_ENDS],
    [kissAt('Bluetooth'), kissAt('USB'), HEARD],
    { watts: 5, hasTracker: true, hasMessagePage: true },
    {
      kiss: 'off',
      kissTo: 'USB',
      kissRate: '1200',
      ownBeacon: 'on',
      band: 'A',
      tncBand: 'A',
      dataSounds: 'heard',
    },
  ),
  'fm-mobile': radio(
    'FM mobile, 6-pin data socket, 25 W',
    'flat audio and a PTT line at the data socket',
    [port('data', 'six-pin', 'socket'), ...AIR_ENDS],
    [audioAt('data', 'PTT line'), HEARD],
    { watts: 25 },
    {},
    1000,
  ),
  'hf-transceiver': radio(
    'HF transceiver with USB sound and control',
    'upper sideband data mode, CAT and PTT by the same cable',
    [port('USB', 'usb-c', 'socket', { usb: 'device' })],
    [audioAt('USB', 'CAT', 'serial line', 'VOX')],
    { bands: ['HF SSB'], watts: 100 },
    { mode: 'upper sideband data' },
    2000,
  ),
  'receive-only-radio': radio(
    'Receive-only software radio',
    'a small USB receiver; saves power at a desk that never transmits',
    [port('USB', 'usb-a', 'plug', { usb: 'device' })],
    [audioAt('USB')],
    { transmits: false },
    {},
    150,
  ),
} as const;

function part(
  kind: 'interface' | 'cable',
  name: string,
  about: string,
  ports: readonly Port[],
  ways: readonly Way[],
  more: Partial<Sort> = {},
): Sort {
  return { kind, name, about, ports, ways, switches: {}, ...more };
}

const DEVICE = { usb: 'device' } as const;

const INTERFACES = {
  'usb-packet-modem': part(
    'interface',
    'USB packet modem',
    '6-pin data socket to USB, KISS',
    [port('radio', 'six-pin', 'socket'), port('USB', 'usb-a', 'plug', DEVICE)],
    [modemWay('radio', 'USB')],
    { drawMilliamps: 60 },
  ),
  'pocket-tnc': part(
    'interface',
    'Pocket Bluetooth TNC',
    'own battery, classic Bluetooth serial, KISS',
    [port('radio', 'tnc-radio', 'socket'), bluetooth('serial')],
    [modemWay('radio', 'Bluetooth')],
    { switches: { heldBy: '', pairedWith: '' } },
  ),
  'le-tnc': part(
    'interface',
    'Pocket TNC that speaks Bluetooth LE',
    'own battery, KISS over classic Bluetooth and LE',
    [port('radio', 'tnc-radio', 'socket'), bluetooth('serial', 'LE')],
    [modemWay('radio', 'Bluetooth')],
    { switches: { heldBy: '', pairedWith: '' } },
  ),
  'sound-dongle': part(
    'interface',
    'USB sound-and-PTT dongle',
    'plugs straight into a two-pin handheld',
    [port('radio', 'two-pin', 'plug'), port('USB', 'usb-a', 'plug', DEVICE)],
    [
      {
        from: 'radio',
        to: 'USB',
        keys: [
          ['PTT line', 'serial line'],
          ['PTT line', 'chip pin'],
          ['VOX', 'VOX'],
        ],
      },
    ],
    { switches: { heldBy: '' } },
  ),
  'sound-interface': part(
    'interface',
    'USB sound interface with PTT',
    'sound card and keying line in one box, 6-pin plug',
    [port('radio', 'six-pin', 'plug'), port('USB', 'usb-a', 'plug', DEVICE)],
    [{ from: 'radio', to: 'USB', keys: [['PTT line', 'serial line']] }],
    { switches: { heldBy: '' }, drawMilliamps: 80 },
  ),
  'analogue-dongle': part(
    'interface',
    'Analogue dongle of the phone’s maker',
    'makes a headset jack of a digital-only one',
    [port('headset', 'headset', 'socket'), port('phone', 'digital-audio', 'plug')],
    [passes('headset', 'phone', 'VOX', 'steady tone')],
  ),
  'third-party-dongle': part(
    'interface',
    'Analogue dongle, third party',
    'untested: some of this kind fail without a word',
    [port('headset', 'headset', 'socket'), port('phone', 'digital-audio', 'plug')],
    [passes('headset', 'phone', 'VOX', 'steady tone')],
    { isUnproven: true },
  ),
  'bluetooth-adapter': part(
    'interface',
    'USB Bluetooth adapter',
    'classic and LE Bluetooth for a computer without it',
    [bluetooth('serial', 'LE'), port('USB', 'usb-a', 'plug', DEVICE)],
    [passes('Bluetooth', 'USB', 'TNC')],
  ),
  'bluetooth-bridge': part(
    'interface',
    'Bluetooth-serial bridge dongle',
    'takes a classic serial TNC and gives it to a Bluetooth LE host',
    [
      port('TNC side', 'bluetooth', 'either', { profiles: ['serial'] }),
      port('host side', 'bluetooth', 'either', { profiles: ['LE'] }),
    ],
    [passes('TNC side', 'host side', 'TNC')],
    { drawMilliamps: 50 },
  ),
  'serial-tnc': part(
    'interface',
    'Serial TNC with mailbox',
    'command prompt and text, built-in mailbox, 25-pin RS-232',
    [port('radio', 'tnc-radio', 'socket'), port('host', 'rs232-25', 'socket')],
    [{ ...modemWay('radio', 'host'), turns: ['audio', 'text'] }],
    { drawMilliamps: 150 },
  ),
} as const;

/** A cable with both ends named for where they go. */
function cable(
  name: string,
  about: string,
  radioSide: readonly [Connector, End],
  hostSide: readonly [Connector, End],
  keys: Way['keys'],
  usb?: Partial<Port>,
): Sort {
  return part(
    'cable',
    name,
    about,
    [port('radio side', ...radioSide, usb), port('host side', ...hostSide, usb)],
    [{ from: 'radio side', to: 'host side', keys }],
  );
}

const WIRED: Way['keys'] = [
  ['PTT line', 'PTT line'],
  ['VOX', 'VOX'],
];
const OCTET_KEYS: Way['keys'] = [
  ['TNC', 'TNC'],
  ['CAT', 'CAT'],
  ['serial line', 'serial line'],
  ['VOX', 'VOX'],
];

const CABLES = {
  'headset-cable': cable(
    'Headset audio cable',
    'passive, for two-pin handhelds; keyed by VOX',
    ['two-pin', 'plug'],
    ['headset', 'plug'],
    [['VOX', 'VOX']],
  ),
  'listening-adapter': cable(
    'Two-pin listening adapter',
    'fits, and brings the loudspeaker only: it does not key',
    ['two-pin', 'plug'],
    ['headset', 'plug'],
    [],
  ),
  'vox-keying-cable': cable(
    'VOX-keying stereo cable',
    'data on one channel; a steady tone on the other keys',
    ['keying', 'socket'],
    ['headset', 'plug'],
    [['PTT line', 'steady tone']],
  ),
  'keying-two-pin': cable(
    'Radio cable, keying cable to two-pin',
    'the radio’s own end of a keying cable',
    ['two-pin', 'plug'],
    ['keying', 'plug'],
    WIRED,
  ),
  'six-pin-cable': cable(
    '6-pin data cable',
    'audio and PTT, both ends 6-pin',
    ['six-pin', 'plug'],
    ['six-pin', 'plug'],
    WIRED,
  ),
  'tnc-two-pin': cable(
    'TNC cable for two-pin handhelds',
    'audio and PTT',
    ['two-pin', 'plug'],
    ['tnc-radio', 'plug'],
    WIRED,
  ),
  'tnc-six-pin': cable(
    'TNC cable for 6-pin data sockets',
    'audio and PTT',
    ['six-pin', 'plug'],
    ['tnc-radio', 'plug'],
    WIRED,
  ),
  'usb-c-to-a': cable(
    'USB cable, C to A',
    'from a device with USB-C to a host with USB-A',
    ['usb-c', 'plug'],
    ['usb-a', 'plug'],
    OCTET_KEYS,
    DEVICE,
  ),
  'usb-c-to-c': cable(
    'USB cable, C to C',
    'data, not for charging only',
    ['usb-c', 'plug'],
    ['usb-c', 'plug'],
    OCTET_KEYS,
    DEVICE,
  ),
  'usb-host-adapter': cable(
    'USB-C host adapter',
    'lets a phone or tablet take USB-A devices',
    ['usb-a', 'socket'],
    ['usb-c', 'plug'],
    OCTET_KEYS,
    DEVICE,
  ),
  'serial-9-25': cable(
    'Serial cable, 9 to 25 pins',
    'straight RS-232 cable',
    ['rs232-25', 'plug'],
    ['rs232-9', 'plug'],
    [['TNC', 'TNC']],
  ),
  'usb-serial': part(
    'cable',
    'USB-serial adapter',
    '9-pin RS-232 to USB-A',
    [port('serial', 'rs232-9', 'socket'), port('USB', 'usb-a', 'plug', DEVICE)],
    [passes('serial', 'USB', 'TNC')],
  ),
} as const;

function host(
  name: string,
  about: string,
  hostClass: HostClass,
  ports: readonly Port[],
  drawMilliamps?: number,
  hasScreen = true,
): Sort {
  return {
    kind: 'host',
    name,
    about,
    ports: [...ports, network, port('microphone', 'open-air', 'socket')],
    ways: [],
    switches: { wireless: 'joined', ...(hostClass === 'computer' ? {} : { sounds: 'on' }) },
    host: { hostClass, hasScreen },
    ...(drawMilliamps === undefined ? {} : { drawMilliamps }),
  };
}

const HEADSET = port('headset', 'headset', 'socket');

const HOSTS = {
  'le-phone': host('Phone, Bluetooth LE only', 'gives apps no serial profile; digital-only audio', 'phone', [
    bluetooth('LE'),
    port('audio', 'digital-audio', 'socket'),
  ]),
  phone: host('Phone, classic + LE Bluetooth', 'USB-C and a headset jack', 'phone', [
    bluetooth('serial', 'LE'),
    HEADSET,
    usbHost('usb-c'),
  ]),
  'old-phone': host('Old phone without service', 'classic Bluetooth, offline map', 'phone', [
    bluetooth('serial'),
    HEADSET,
  ]),
  tablet: host('Tablet with headset jack', 'classic Bluetooth', 'tablet', [
    bluetooth('serial', 'LE'),
    HEADSET,
    usbHost('usb-c'),
  ]),
  laptop: host('Laptop', 'USB, Bluetooth, headset jack', 'computer', [
    usbHost('usb-a'),
    bluetooth('serial', 'LE'),
    HEADSET,
  ]),
  desktop: host('Desktop computer', 'USB and a 9-pin serial port', 'computer', [
    usbHost('usb-a'),
    port('serial', 'rs232-9', 'plug'),
  ]),
  'single-board': host(
    'Single-board computer',
    '5 V, USB, wireless',
    'small computer',
    [usbHost('usb-a')],
    400,
  ),
  'headless-12v': host(
    'Small 12 V computer without a screen',
    'comes up by itself, with its own wireless network',
    'small computer',
    [usbHost('usb-a')],
    300,
    false,
  ),
} as const;

function app(
  name: string,
  about: string,
  runsOn: readonly HostClass[],
  opens: readonly (readonly [Signal, ...Transport[]])[],
  does: readonly AppTask[],
  more: Partial<AppFacts> = {},
  switches: Switches = {},
): Sort {
  const isSoundApp = opens.some(([signal]) => signal === 'audio');
  return {
    kind: 'app',
    name,
    about,
    ports: [],
    ways: [],
    switches,
    app: {
      runsOn,
      opens: opens.map(([signal, ...over]) => ({ signal, over })),
      keysBy: isSoundApp ? ['VOX', 'by hand'] : [],
      does,
      isMistpeak: false,
      ...more,
    },
  };
}

const HAND: readonly HostClass[] = ['phone', 'tablet'];
const DESK: readonly HostClass[] = ['computer', 'small computer'];
const MAP: readonly AppTask[] = ['receive', 'beacon', 'messages', 'map'];

const APPS = {
  mistpeak: app(
    'Mistpeak',
    'this program, on the computer that it runs on',
    DESK,
    [['KISS', 'USB', 'RS-232', 'Bluetooth serial', 'TCP']],
    ['receive', 'beacon'],
    { isMistpeak: true },
    { tcpPort: '8001' },
  ),
  'phone-map': app(
    'Map and message app for phones',
    'KISS over Bluetooth serial, USB and TCP',
    HAND,
    [['KISS', 'Bluetooth serial', 'USB', 'TCP']],
    MAP,
    {},
    { tcpPort: '8001' },
  ),
  'phone-map-le': app(
    'Map and message app, Bluetooth LE and sound',
    'KISS over LE and TCP, or its own software modem',
    HAND,
    [
      ['KISS', 'Bluetooth LE', 'TCP'],
      ['audio', 'sound'],
    ],
    MAP,
    { keysBy: ['VOX', 'steady tone', 'by hand'] },
    { tcpPort: '8001' },
  ),
  'phone-mail': app(
    'Radio mail app for phones',
    'KISS over Bluetooth serial, LE and TCP, or its own software modem',
    HAND,
    [
      ['KISS', 'Bluetooth serial', 'Bluetooth LE', 'TCP'],
      ['audio', 'sound'],
    ],
    ['session', 'mail', 'peer-to-peer mail'],
    { keysBy: ['VOX', 'steady tone', 'by hand'] },
    { tcpPort: '8001' },
  ),
  'desk-map': app(
    'Map program for computers',
    'KISS over TCP and serial ports',
    DESK,
    [['KISS', 'TCP', 'USB', 'RS-232', 'Bluetooth serial']],
    MAP,
    {},
    { tcpPort: '8001' },
  ),
  'modem-program': app(
    'Software modem program',
    'sound card to KISS over TCP; keys by a serial line, the chip’s pin or VOX',
    DESK,
    [['audio', 'sound']],
    [],
    { keysBy: ['VOX', 'serial line', 'chip pin', 'by hand'], offers: 'KISS' },
    { tcpPort: '8001', heldBy: '' },
  ),
  'virtual-modem': app(
    'Sound modem program with command and data ports',
    'proprietary HF and VHF modem; keys by CAT or a serial line',
    DESK,
    [['audio', 'sound']],
    [],
    { keysBy: ['VOX', 'serial line', 'chip pin', 'CAT'], offers: 'modem ports' },
  ),
  'desk-mail': app(
    'Radio mail program for computers',
    'KISS, or the ports of a sound modem program',
    DESK,
    [
      ['KISS', 'TCP', 'USB', 'RS-232', 'Bluetooth serial'],
      ['modem ports', 'TCP'],
    ],
    ['session', 'mail', 'peer-to-peer mail', 'mail by sound modem'],
    {},
    { tcpPort: '8001' },
  ),
  terminal: app(
    'Terminal program',
    'text over a serial port',
    DESK,
    [['text', 'USB', 'RS-232', 'Bluetooth serial']],
    ['session'],
  ),
} as const;

/** Gains and heights are usual ones (common practice, no source). */
const antenna = (name: string, about: string, facts?: AntennaFacts): Sort => ({
  kind: 'antenna',
  name,
  about,
  ports: [],
  ways: [],
  switches: {},
  ...(facts ? { antenna: facts } : {}),
});

const ANTENNAS = {
  whip: antenna('Whip of the handheld', 'short; better outdoors, upright, away from the body', {
    gainDbi: -5,
    heightM: 1.5,
    feedLossDb: 0,
  }),
  'mobile-antenna': antenna('Mobile antenna', 'on the roof, with a ground below it', {
    gainDbi: 2,
    heightM: 2,
    feedLossDb: 1,
  }),
  'roof-vertical': antenna('Vertical on a mast', 'high and clear', {
    gainDbi: 4,
    heightM: 9,
    feedLossDb: 1,
  }),
  'end-fed-wire': antenna('End-fed wire with tuner', 'for HF'),
  'dummy-load': antenna('Dummy load', 'for trials that nobody shall hear'),
} as const;

export const LIBRARY = {
  ...RADIOS,
  ...INTERFACES,
  ...CABLES,
  ...HOSTS,
  ...APPS,
  ...ANTENNAS,
} as const satisfies Record<string, Sort>;

export type LibraryKind = keyof typeof LIBRARY;
export const LIBRARY_KINDS = Object.keys(LIBRARY) as readonly LibraryKind[];

/** One of that kind, to be owned under that id. */
export function fromLibrary(kind: LibraryKind, id: string = kind, changes: Partial<Item> = {}): Item {
  return { ...LIBRARY[kind], id, isHere: true, ...changes };
}
