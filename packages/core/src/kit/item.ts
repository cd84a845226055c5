import type { Connector, End, Signal, Transport } from './connectors.js';
import type { SwitchId } from './switches.js';

export const ITEM_KINDS = ['radio', 'interface', 'cable', 'antenna', 'host', 'app'] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

/** How the radio is made to transmit, as seen from one place of the chain. chip pin: of the sound chip itself. TNC: whoever has KISS need not key. */
export const KEYINGS = [
  'PTT line',
  'VOX',
  'steady tone',
  'serial line',
  'chip pin',
  'CAT',
  'TNC',
  'by hand',
] as const;
export type Keying = (typeof KEYINGS)[number];

export const BLUETOOTH_PROFILES = ['serial', 'LE'] as const;
export type BluetoothProfile = (typeof BLUETOOTH_PROFILES)[number];

export const USB_ROLES = ['host', 'device', 'both'] as const;
export type UsbRole = (typeof USB_ROLES)[number];

export const HOST_CLASSES = ['phone', 'tablet', 'computer', 'small computer'] as const;
export type HostClass = (typeof HOST_CLASSES)[number];

export const BANDS = ['VHF FM', 'HF SSB'] as const;
export type Band = (typeof BANDS)[number];

export const APP_TASKS = [
  'receive',
  'beacon',
  'messages',
  'map',
  'session',
  'mail',
  'peer-to-peer mail',
  'mail by sound modem',
] as const;
export type AppTask = (typeof APP_TASKS)[number];

/** One place where something is plugged, paired or joined. name: as it is called on the item, where it matters. */
export interface Port {
  readonly id: string;
  readonly connector: Connector;
  readonly end: End;
  readonly name?: string;
  readonly usb?: UsbRole;
  readonly profiles?: readonly BluetoothProfile[];
}

/** From the radio's side to the computer's. turns: what comes out where it is not what went in. */
export interface Way {
  readonly from: string;
  readonly to: string;
  readonly turns?: readonly [Signal, Signal];
  /** The radio's keying → how it is worked from the computer's side; without any: what comes through is not keyed. */
  readonly keys: readonly (readonly [Keying, Keying])[];
}

/** What a radio gives at one of its ports. since: the firmware that does. */
export interface Source {
  readonly port: string;
  readonly gives: Signal;
  readonly keying: readonly Keying[];
  readonly since?: string;
}

export interface Opening {
  readonly signal: Signal;
  readonly over: readonly Transport[];
}

export interface RadioFacts {
  readonly bands: readonly Band[];
  readonly transmits: boolean;
  readonly watts?: number;
  readonly sources: readonly Source[];
  /** It sends its own position with nothing linked to it. */
  readonly hasTracker: boolean;
  /** Messages are read and written on its own screen and keys. */
  readonly hasMessagePage?: boolean;
}

/** heightM: where it is used, over the ground; gainDbi: over isotropic; feedLossDb: of the line to it. */
export interface AntennaFacts {
  readonly gainDbi: number;
  readonly heightM: number;
  readonly feedLossDb: number;
}

export interface HostFacts {
  readonly hostClass: HostClass;
  readonly hasScreen: boolean;
}

/** opens: what it can take; offers: what it gives to other programs over TCP, as a software modem does. */
export interface AppFacts {
  readonly runsOn: readonly HostClass[];
  readonly opens: readonly Opening[];
  readonly keysBy: readonly Keying[];
  readonly does: readonly AppTask[];
  readonly offers?: Signal;
  readonly isMistpeak: boolean;
}

/** Something owned (or of the library), described by what it can do. drawMilliamps: from the field battery, at work. */
export interface Item {
  readonly id: string;
  readonly kind: ItemKind;
  readonly name: string;
  readonly about: string;
  /** Firmware or program version, as far as it is known. */
  readonly version?: string;
  /** At hand now, not in another place. */
  readonly isHere: boolean;
  readonly drawMilliamps?: number;
  /** Of an unknown make where the safe choice is the phone maker's own (common practice, no source). */
  readonly isUnproven?: boolean;
  readonly ports: readonly Port[];
  readonly ways: readonly Way[];
  readonly switches: Readonly<Partial<Record<SwitchId, string>>>;
  readonly radio?: RadioFacts;
  readonly host?: HostFacts;
  readonly app?: AppFacts;
  readonly antenna?: AntennaFacts;
}

export const portOf = (item: Item, id: string): Port | undefined => item.ports.find((port) => port.id === id);

/** −1, 0 or 1: dotted numbers part by part, “1.10” after “1.9”. */
export function compareVersions(a: string, b: string): number {
  const parts = (text: string): number[] => (text.match(/\d+/g) ?? []).map(Number);
  const [left, right] = [parts(a), parts(b)];
  for (let i = 0; i < Math.max(left.length, right.length); i++) {
    const difference = (left[i] ?? 0) - (right[i] ?? 0);
    if (difference !== 0) return Math.sign(difference);
  }
  return 0;
}
