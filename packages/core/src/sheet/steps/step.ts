import { ssidRole } from '../../callsign/roles.js';
import type { Item } from '../../kit/item.js';
import type { SheetContext } from '../context.js';
import type { SchoolId } from '../schools.js';

type Told = string | ((context: SheetContext, item: Item) => string);

/** A step for one kind of device. value: what to set, or undefined where the chain has no use for it. */
export interface Step {
  readonly id: string;
  readonly setting: string;
  readonly value: (context: SheetContext, item: Item) => string | undefined;
  readonly reason: Told;
  readonly check: Told;
  readonly school?: SchoolId | ((context: SheetContext) => SchoolId | undefined);
  /** Care that every such device needs, whatever the chain: it stands below what is special to this one. */
  readonly isCare?: true;
  /** What is measured is written down with the tick. */
  readonly measures?: string;
  /** Where it is not common practice only. */
  readonly source?: string;
}

export const told = (words: Told, context: SheetContext, item: Item): string =>
  typeof words === 'string' ? words : words(context, item);

/** The value where that holds. */
export const where = (holds: boolean, value: string): string | undefined => (holds ? value : undefined);

/** The value where the item has that switch. */
export const switched = (item: Item, id: keyof Item['switches'], value: string): string | undefined =>
  where(item.switches[id] !== undefined, value);

/** The call that the device goes by: as planned, else by the school. */
export function callOf({ call, chain, kind, isMoving, option }: SheetContext): string {
  if (/-\d+$/.test(call)) return call;
  if (!kind.isAprs) return `${call} (${ssidRole(0)})`;
  if (option('ssid') !== 'by the table') return `${call}, with any SSID that no other device of yours has`;
  const host = chain.stones.find(({ item }) => item.host)?.item.host?.hostClass;
  const ssid = host === 'phone' ? 5 : kind.isHandheld ? 7 : isMoving ? 9 : 0;
  return ssid === 0 ? `${call} (${ssidRole(0)})` : `${call}-${ssid} (${ssidRole(ssid)})`;
}

export const CALL_REASON =
  'No two devices under one call with SSID: the station jumps about, and messages are acknowledged by the wrong one.';
export const KISS_SOURCE = 'Chepponis and Karn, The KISS TNC, 1987';
