/**
 * How things are put together, and what can pass there. Common practice, no source, unless a line says more.
 * family: connectors of one family carry the same thing, so that a plain cable or adapter can lead from one to the other.
 */
export type Signal = 'audio' | 'KISS' | 'text' | 'modem ports';
/** What an app opens: sound, or octets by this way. */
export type Transport = 'sound' | 'USB' | 'RS-232' | 'Bluetooth serial' | 'Bluetooth LE' | 'TCP';
export type Family =
  | 'analogue audio'
  | 'digital audio'
  | 'USB'
  | 'RS-232'
  | 'Bluetooth'
  | 'network'
  | 'sound in the air';

export interface ConnectorFacts {
  readonly name: string;
  readonly family: Family;
  readonly carries: readonly Signal[];
}

const AUDIO: readonly Signal[] = ['audio'];
const OCTETS: readonly Signal[] = ['KISS', 'text'];
const analogue = (name: string): ConnectorFacts => ({ name, family: 'analogue audio', carries: AUDIO });

export const CONNECTORS = {
  'two-pin': analogue('two-pin audio'),
  'six-pin': analogue('6-pin data'),
  headset: analogue('3.5 mm headset'),
  'jack-2.5': analogue('2.5 mm jack'),
  'tnc-radio': analogue('TNC radio jack'),
  keying: analogue('keying-cable jack'),
  'digital-audio': { name: 'digital-only audio', family: 'digital audio', carries: AUDIO },
  'usb-a': { name: 'USB-A', family: 'USB', carries: ['audio', ...OCTETS] },
  'usb-c': { name: 'USB-C', family: 'USB', carries: ['audio', ...OCTETS] },
  'rs232-9': { name: '9-pin RS-232', family: 'RS-232', carries: OCTETS },
  'rs232-25': { name: '25-pin RS-232', family: 'RS-232', carries: OCTETS },
  bluetooth: { name: 'Bluetooth', family: 'Bluetooth', carries: OCTETS },
  network: { name: 'wireless or wired network', family: 'network', carries: ['KISS', 'modem ports'] },
  'open-air': { name: 'loudspeaker to microphone', family: 'sound in the air', carries: AUDIO },
} as const satisfies Record<string, ConnectorFacts>;

export type Connector = keyof typeof CONNECTORS;

/** plug goes into socket; either: wireless, and each may begin. */
export const ENDS = ['plug', 'socket', 'either'] as const;
export type End = (typeof ENDS)[number];

export const isConnector = (text: unknown): text is Connector =>
  typeof text === 'string' && Object.hasOwn(CONNECTORS, text);

export const connectorName = (connector: Connector): string => CONNECTORS[connector].name;

/** Whether two ends go into one another. */
export function mates(
  a: { readonly connector: Connector; readonly end: End },
  b: { readonly connector: Connector; readonly end: End },
): boolean {
  if (a.connector !== b.connector) return false;
  return a.end === 'either' || b.end === 'either' || a.end !== b.end;
}
