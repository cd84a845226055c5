import { ssidRole } from '../callsign/roles.js';
import { DEMANDS } from '../chain/purpose.js';
import type { Item, ItemKind } from '../kit/item.js';
import type { SchoolId } from './schools.js';
import type { SheetContext } from './context.js';

/** A step of one kind of device. value: what to set, or undefined where it does not apply. */
interface Step {
  readonly id: string;
  readonly kind: ItemKind;
  readonly setting: string;
  readonly value: (context: SheetContext, item: Item) => string | undefined;
  readonly reason: string;
  readonly check: string;
  readonly school?: SchoolId;
  readonly measures?: string;
  /** Where it is not common practice only. */
  readonly source?: string;
}

const transmits = ({ chain }: SheetContext): boolean => DEMANDS[chain.purpose].transmits;
const isSsb = (item: Item): boolean => item.radio?.bands.includes('HF SSB') ?? false;
const isFm = (item: Item): boolean => !isSsb(item);
const gives = ({ chain }: SheetContext): string => chain.joints[0]?.signal ?? '';
const isAlone = ({ chain }: SheetContext): boolean => chain.stones.length === 1;
const isAprs = ({ chain }: SheetContext): boolean =>
  ['receive', 'beacon', 'messages', 'map'].includes(chain.purpose);
const entersBy = ({ chain }: SheetContext, item: Item): string | undefined =>
  chain.stones.find((stone) => stone.item.id === item.id)?.entered?.connector;
const leavesBy = ({ chain }: SheetContext, item: Item): string | undefined =>
  chain.stones.find((stone) => stone.item.id === item.id)?.left?.connector;
const cameIn = ({ chain }: SheetContext, item: Item) =>
  chain.joints[chain.stones.findIndex((stone) => stone.item.id === item.id) - 1];
const isSerial = (context: SheetContext, item: Item): boolean =>
  ['USB', 'RS-232', 'Bluetooth serial'].includes(cameIn(context, item)?.transport ?? '') &&
  cameIn(context, item)?.signal !== 'audio';
/** A switch of the item, where it has one. */
const has = (item: Item, id: keyof Item['switches'], value: string): string | undefined =>
  item.switches[id] === undefined ? undefined : value;

/** The call that the device goes by: as planned, else by the school. */
function callOf({ call, chain, isMoving, option }: SheetContext): string {
  if (/-\d+$/.test(call)) return call;
  if (option('ssid') !== 'by the table') return `${call}, with any SSID that no other device of yours has`;
  const host = chain.stones.find(({ item }) => item.host)?.item.host?.hostClass;
  const isHandheld = (chain.stones[0]?.item.radio?.watts ?? 0) < 10;
  const ssid = host === 'phone' ? 5 : isHandheld ? 7 : isMoving ? 9 : 0;
  return ssid === 0 ? `${call} (${ssidRole(0)})` : `${call}-${ssid} (${ssidRole(ssid)})`;
}

function frequency({ chain, channelMHz }: SheetContext, item: Item): string {
  if (isSsb(item)) return 'the gateway’s dial frequency, from the list';
  if (['session', 'mail', 'sound mail'].includes(chain.purpose))
    return 'the far station’s or gateway’s channel, from the list';
  return channelMHz === undefined ? 'the APRS channel of the region' : `${channelMHz.toFixed(3)} MHz`;
}

const RADIO: readonly Omit<Step, 'kind'>[] = [
  {
    id: 'antenna',
    setting: 'Antenna',
    value: (context) => (transmits(context) ? 'connected, or a dummy load' : undefined),
    reason: 'Keying without one can destroy the transmitter.',
    check: 'Look at it before anything can key.',
  },
  {
    id: 'vfo',
    setting: 'VFO or memory',
    value: () => 'the one that you will use, before anything else',
    reason: 'Some menus switch between them without a word, and what was set is then in the other.',
    check: 'The display shows the same after each step.',
  },
  {
    id: 'band',
    setting: 'Band on the channel',
    value: (_, item) =>
      item.switches.band ? `${item.switches.band}: the one that the TNC listens to` : undefined,
    reason: 'A TNC listens to one of the two bands.',
    check: 'The meter of that band moves when a packet comes.',
  },
  {
    id: 'frequency',
    setting: 'Frequency',
    value: frequency,
    reason: 'The channel of the region; band plans change, and the local one is in force.',
    check: 'Short rasping bursts are heard.',
    source: 'regional band plans',
  },
  {
    id: 'mode',
    setting: 'Mode',
    value: (_, item) => (isSsb(item) ? 'upper sideband data' : 'FM, not digital voice'),
    reason: 'The tones go through as they are only in this mode.',
    check: 'The display says so.',
  },
  {
    id: 'squelch',
    setting: 'Squelch',
    value: (context, item) => (isFm(item) ? context.option('squelch') : undefined),
    reason: 'Too tight loses the start of every packet; if sessions fail, lower it first.',
    check: 'The start of each burst is heard.',
    school: 'squelch',
  },
  {
    id: 'vox',
    setting: 'VOX',
    value: ({ chain }, item) =>
      chain.keying === 'VOX' ? 'on, most sensitive end first' : has(item, 'vox', 'off'),
    reason:
      'Which end is sensitive differs between radios: find it by trial, back off only if noise keys it.',
    check: 'The transmit lamp stays lit for a whole packet.',
    measures: 'the setting that holds',
  },
  {
    id: 'bandwidth',
    setting: 'Bandwidth',
    value: (context, item) => (isFm(item) ? context.option('bandwidth') : undefined),
    reason: 'Narrow with full audio distorts; follow the local band plan.',
    check: 'Packets of strong stations decode.',
    school: 'bandwidth',
  },
  {
    id: 'power',
    setting: 'Power',
    value: (context) => (transmits(context) ? context.option('power') : undefined),
    reason: 'Enough to be heard, no more.',
    check: 'An echo comes.',
    school: 'power',
  },
  {
    id: 'tail',
    setting: 'Squelch-tail removal',
    value: (_, item) => (isFm(item) ? 'off' : undefined),
    reason: 'It cuts the end of the packet.',
    check: 'The menu says off.',
  },
  {
    id: 'dataSounds',
    setting: 'Muting of data sounds',
    value: (context, item) =>
      gives(context) === 'KISS' ? has(item, 'dataSounds', 'off while KISS is used') : undefined,
    reason: 'On some sets it silences the data too.',
    check: 'The rasp of a packet is heard.',
  },
  {
    id: 'noise',
    setting: 'Noise reduction',
    value: () => 'off',
    reason: 'It changes the level that is needed, and distorts data.',
    check: 'The menu says off.',
  },
  {
    id: 'ownBeacon',
    setting: 'Own beaconing',
    value: (context, item) => has(item, 'ownBeacon', isAlone(context) ? 'on' : 'off'),
    reason: 'The radio’s own APRS and KISS exclude each other.',
    check: 'Its display shows no beacon counter running, or one, as wanted.',
  },
  {
    id: 'kiss',
    setting: 'KISS',
    value: (context, item) =>
      isAlone(context) ? has(item, 'kiss', 'off') : gives(context) === 'KISS' ? 'on, 1200' : undefined,
    reason: '1200 for APRS and packet; 9600 only where both ends do it.',
    check: 'The display shows KISS on the right band.',
    source: 'Chepponis and Karn, The KISS TNC, 1987',
  },
  {
    id: 'kissTo',
    setting: 'KISS goes to',
    value: (context, item) =>
      gives(context) === 'KISS'
        ? has(item, 'kissTo', leavesBy(context, item) === 'bluetooth' ? 'Bluetooth' : 'USB')
        : undefined,
    reason: 'Only one of the two ways has it.',
    check: 'Something comes on the host when a packet is heard.',
  },
  {
    id: 'format',
    setting: 'Packet format',
    value: (context, item) =>
      isAlone(context) && item.radio?.hasTracker ? 'standard APRS, not the maker’s own' : undefined,
    reason: 'Others read only the standard form.',
    check: 'A map somewhere shows it.',
    source: 'APRS Protocol Reference 1.0.1',
  },
  {
    id: 'call',
    setting: 'Call with SSID',
    value: (context) => (isAlone(context) ? callOf(context) : undefined),
    reason: 'No two devices under one call with SSID.',
    check: 'Compare with the page Call signs.',
    school: 'ssid',
  },
  {
    id: 'output',
    setting: 'Audio output',
    value: (context, item) =>
      leavesBy(context, item) === 'six-pin' ? 'flat (discriminator), 1200 baud' : undefined,
    reason: 'De-emphasised loudspeaker audio has a weak high tone.',
    check: 'Both tones are equally strong.',
  },
  {
    id: 'volume',
    setting: 'Volume',
    value: (context, item) =>
      gives(context) === 'audio' && leavesBy(context, item) !== 'six-pin' && isFm(item)
        ? 'the middle, then by the meter'
        : undefined,
    reason: 'The knob is also the power knob: it is wrong after each power cycle.',
    check: 'The receive level sits inside the window; short peaks near full scale are fine.',
    measures: 'RMS level, dBFS',
  },
  {
    id: 'drive',
    setting: 'Drive',
    value: (context, item) => (isSsb(item) ? context.option('drive') : undefined),
    reason: 'Two schools; the cleaner one first.',
    check: 'Watch the ALC meter through a whole transmission.',
    school: 'drive',
    measures: 'ALC reading',
  },
];

const CABLE: readonly Omit<Step, 'kind'>[] = [
  {
    id: 'seat',
    setting: 'Plugs',
    value: () => 'home on both ends',
    reason: 'A half-seated plug gives quiet audio, or a port that is not there.',
    check: 'Push once more; nothing moves.',
  },
];

const INTERFACE: readonly Omit<Step, 'kind'>[] = [
  { ...(CABLE[0] as Omit<Step, 'kind'>) },
  {
    id: 'charge',
    setting: 'Battery and switch',
    value: (_, item) =>
      item.ports.some(({ connector }) => connector === 'bluetooth') ? 'charged, on' : undefined,
    reason: 'A TNC that sleeps is not in the list.',
    check: 'Its lamp is lit.',
  },
  {
    id: 'txdelay',
    setting: 'TXDELAY',
    value: (context, item) =>
      transmits(context) && item.ways.some(({ turns }) => turns)
        ? '300 ms; 500 ms or more where VOX keys'
        : undefined,
    reason: 'From key-down to valid data; too short cuts the start of every packet.',
    check: 'An echo comes; if not, try 500 ms.',
    measures: 'ms that work',
  },
  {
    id: 'oneApp',
    setting: 'Programs',
    value: () => 'one only: close all others that may hold it',
    reason: 'One app holds a TNC or a sound card, also while it only sleeps in the background.',
    check: 'No other app in the list of running ones.',
  },
];

const HOST: readonly Omit<Step, 'kind'>[] = [
  {
    id: 'ports',
    setting: 'Which port',
    value: (context, item) =>
      isSerialHost(context, item) ? 'list the ports, plug or pair, list again: the new one' : undefined,
    reason: 'Ports have no names that one would know.',
    check: 'The port goes away when it is unplugged.',
    measures: 'port',
  },
  {
    id: 'pair',
    setting: 'Bluetooth',
    value: (context, item) =>
      entersBy(context, item) === 'bluetooth' ? 'paired here, forgotten elsewhere' : undefined,
    reason: 'It connects to whatever it was paired with last.',
    check: 'The lamp of the TNC shows a connection when the app is open.',
  },
  {
    id: 'sounds',
    setting: 'Sounds',
    value: ({ isSound, ...context }, item) =>
      isSound && transmits({ isSound, ...context }) && item.host?.hostClass !== 'computer'
        ? 'notifications muted'
        : undefined,
    reason: 'They go on the air.',
    check: 'Send yourself a message: silence.',
  },
  {
    id: 'volume',
    setting: 'Output volume',
    value: (context) =>
      context.isSound && transmits(context) ? 'three quarters, then by a second receiver' : undefined,
    reason: 'Enough to hold VOX and for about 3 to 3.5 kHz deviation, not more.',
    check: 'A second receiver decodes it; too low drops out of transmit, too loud does not decode.',
    measures: 'step of the volume',
  },
  {
    id: 'wireless',
    setting: 'Network',
    value: (context, item) =>
      context.chain.joints.some(({ name }) => name.includes('network'))
        ? (item.switches.wireless ?? 'joined')
        : undefined,
    reason: 'Both computers must be on one network.',
    check: 'The address of the other answers.',
    measures: 'address',
  },
  {
    id: 'internet',
    setting: 'Airplane mode',
    value: (context, item) =>
      transmits(context) && item.host && ['phone', 'tablet'].includes(item.host.hostClass)
        ? 'on for the proof, Bluetooth on again'
        : undefined,
    reason: 'On the map proves nothing while the app may send over the internet.',
    check: 'The browser reaches nothing.',
  },
  {
    id: 'cold',
    setting: 'Cold start',
    value: (_, item) => (item.host && !item.host.hasScreen ? 'all comes up by itself' : undefined),
    reason: 'There is no screen to repair it in the field.',
    check: 'Cut the power at home, wait, and use it without touching it.',
  },
];

function isSerialHost(context: SheetContext, item: Item): boolean {
  const at = context.chain.stones.findIndex((stone) => stone.item.id === item.id);
  const next = context.chain.joints[at];
  return (
    item.host?.hostClass !== 'phone' &&
    next?.signal !== 'audio' &&
    ['USB', 'RS-232', 'Bluetooth serial'].includes(next?.transport ?? '')
  );
}

const APP: readonly Omit<Step, 'kind'>[] = [
  {
    id: 'call',
    setting: 'Call with SSID',
    value: (context, item) => (transmits(context) && !item.app?.offers ? callOf(context) : undefined),
    reason: 'No two devices under one call with SSID; made-up calls on the air are not legal.',
    check: 'Compare with the page Call signs.',
    school: 'ssid',
  },
  {
    id: 'device',
    setting: 'TNC',
    value: (context, item) => {
      const joint = cameIn(context, item);
      if (joint?.signal === 'audio')
        return item.app?.offers ? 'the sound card of the interface' : 'software modem, AFSK 1200';
      return joint ? `${joint.signal} over ${joint.transport ?? 'the port'}` : undefined;
    },
    reason: 'It must open what this chain gives.',
    check: 'It says connected, and shows a packet.',
  },
  {
    id: 'flow',
    setting: 'Flow control',
    value: (context, item) => (isSerial(context, item) ? 'none' : undefined),
    reason: 'KISS is binary: XON and XOFF are data in it.',
    check: 'Long packets come whole.',
    source: 'Chepponis and Karn, The KISS TNC, 1987',
  },
  {
    id: 'address',
    setting: 'Address and port',
    value: (context, item) => {
      const joint = cameIn(context, item);
      if (item.app?.offers === 'KISS') return `port ${item.switches.tcpPort ?? '8001'}`;
      return joint?.transport === 'TCP' && joint.signal === 'KISS'
        ? (context.linkAddress ?? `the modem’s address, port ${item.switches.tcpPort ?? '8001'}`)
        : undefined;
    },
    reason: '8001 and 8100 are both usual; a mismatch gives silence.',
    check: 'Compare the number on both sides.',
    measures: 'address and port',
  },
  {
    id: 'ptt',
    setting: 'Keying',
    value: ({ chain, ...context }, item) => keyingValue({ chain, ...context }, item),
    reason: 'The modem program must key the radio itself.',
    check: 'The transmit lamp lights for a test tone.',
  },
  {
    id: 'path',
    setting: 'Path',
    value: (context, item) =>
      transmits(context) && isAprs(context) && !item.app?.offers ? context.option('path') : undefined,
    reason: 'Every extra hop multiplies the copies on the channel.',
    check: 'An echo with a digipeater’s call marked as used.',
    school: 'path',
    source: 'New n-N paradigm (APRS addendum)',
  },
  {
    id: 'interval',
    setting: 'Beacon interval',
    value: (context, item) =>
      context.chain.purpose === 'beacon' && !item.app?.offers
        ? context.isMoving
          ? '2 min, or by speed and turns'
          : '30 min, or by hand'
        : undefined,
    reason: 'Beacons must not flood the channel.',
    check: 'After a test at a short interval, turn it back.',
  },
  {
    id: 'gating',
    setting: 'Internet',
    value: (context, item) =>
      isAprs(context) && !item.app?.isMistpeak && !item.app?.offers
        ? 'off until the radio is proved'
        : undefined,
    reason: 'The app may send over the internet: on the map is then no proof of radio.',
    check: 'The path on a server’s page shows a gateway’s call and qAR.',
    source: 'APRS-IS connection description',
  },
  {
    id: 'first-session',
    setting: 'First session',
    value: ({ chain }, item) =>
      ['mail', 'sound mail'].includes(chain.purpose) && !item.app?.offers
        ? 'with nothing queued, to prove the chain'
        : undefined,
    reason: 'A careful habit: then send.',
    check: 'The gateway answers and both say goodbye.',
  },
  {
    id: 'gateways',
    setting: 'Gateways',
    value: ({ chain }, item) =>
      ['mail', 'sound mail'].includes(chain.purpose) && !item.app?.offers
        ? 'three or four written down: call, frequency, distance, bearing'
        : undefined,
    reason: 'If the first calls get no answer, go to the next.',
    check: 'The list is with you, and needs no internet.',
  },
  {
    id: 'arm',
    setting: 'Transmit lock',
    value: (context, item) =>
      item.app?.isMistpeak && transmits(context)
        ? `armed as ${callOf(context)}, when all above is ticked`
        : undefined,
    reason: 'Mistpeak starts receive-only.',
    check: 'The Bench lights “keyed”, then “repeated”.',
  },
];

function keyingValue({ chain }: SheetContext, item: Item): string | undefined {
  if (!DEMANDS[chain.purpose].transmits || !item.app?.opens.some(({ signal }) => signal === 'audio'))
    return undefined;
  const keys = new Set(
    chain.stones.flatMap(({ item: one }) => one.ways.flatMap((way) => way.keys.map(([, to]) => to))),
  );
  const by = item.app.keysBy.find((keying) => keying === 'serial line' && keys.has('serial line'));
  if (by) return 'the serial line of the interface';
  if (
    chain.stones[0]?.item.radio?.sources.some(({ keying }) => keying.includes('CAT')) &&
    item.app.keysBy.includes('CAT')
  )
    return 'CAT: port and speed as in the radio’s menu';
  if (keys.has('steady tone')) return 'a steady tone on the other channel, beyond 10 kHz';
  return 'VOX: a lead-in long enough to open it';
}

const of = (kind: ItemKind, steps: readonly Omit<Step, 'kind'>[]): Step[] =>
  steps.map((step) => ({ ...step, kind }));

/** Every step that a sheet can have, in the order of each device. Common practice, no source, unless it says more. */
export const STEPS: readonly Step[] = [
  ...of('radio', RADIO),
  ...of('cable', CABLE),
  ...of('interface', INTERFACE),
  ...of('host', HOST),
  ...of('app', APP),
];
