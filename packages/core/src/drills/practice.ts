import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { parseCallSign } from '../callsign/callsign.js';
import type { FaultId } from '../faults/faults.js';
import type { TestId } from '../faults/tests.js';

/** What can be made the matter in the practice world while it runs; the others need a chain that is made up. */
export const WORLD_FAULTS = [
  'kiss-off',
  'wrong-port',
  'held',
  'wrong-band',
  'deaf',
  'squelch',
  'plug',
  'vox-slow',
  'vox-hang',
  'over-deviated',
  'keying-tone',
  'path',
  'gateway-silent',
  'gateway-service',
  'ssid',
  'battery',
  'service-closed',
  'radio-control',
] as const satisfies readonly FaultId[];
export type WorldFault = (typeof WORLD_FAULTS)[number];

export const isWorldFault = (fault: string): fault is WorldFault =>
  (WORLD_FAULTS as readonly string[]).includes(fault);

/** Tests that are done where they are done otherwise too, and the page: they are not asked for, their time is the clock's. */
export const ON_PAGES = {
  port: '/tnc',
  decode: '/air?show=log',
  echo: '/beacon',
  call: '/mail',
  another: '/mail',
  own: '/air?show=log',
  service: '/messages',
} as const satisfies Partial<Record<TestId, string>>;

export type GatewayManner = 'serves' | 'silent' | 'without service';
const MANNERS: readonly GatewayManner[] = ['serves', 'silent', 'without service'];

/** What the practice world is told; whatever an earlier order said is over. */
export interface PracticeOrder {
  readonly faults: readonly WorldFault[];
  /** One's own call-SSID, which another device uses too where the fault is that. */
  readonly ownCall?: string;
  /** Mail gateways that behave otherwise than usual, by their call. */
  readonly gateways: Readonly<Record<string, GatewayManner>>;
  /** A message that is said until it is acknowledged. */
  readonly says?: { readonly from: string; readonly to: string; readonly text: string };
}

export const ALL_WELL: PracticeOrder = { faults: [], gateways: {} };

/** ownCall: of the device that beacons; gateways: in the order in which they are called. */
export function orderOf(
  faults: readonly FaultId[],
  { ownCall, gateways }: { readonly ownCall: string; readonly gateways: readonly string[] },
): PracticeOrder {
  const manners = faults.flatMap((fault): GatewayManner[] =>
    fault === 'gateway-silent' ? ['silent'] : fault === 'gateway-service' ? ['without service'] : [],
  );
  const ill = gateways.slice(0, manners.length);
  return {
    faults: faults.filter(isWorldFault),
    ownCall,
    gateways: Object.fromEntries(ill.map((call, i) => [call, manners[i] as GatewayManner])),
  };
}

/** One line of text. */
export const formatOrder = (order: PracticeOrder): string => JSON.stringify(order);

const MOST_LINE = 2000;
const MOST_GATEWAYS = 20;
/** APRS 1.0.1, chapter 14: a message has 67 characters. */
const MOST_TEXT = 67;

/** What formatOrder has written. */
export function parseOrder(line: string): PracticeOrder | Malformed {
  if (line.length > MOST_LINE) return malformed('longer than any order');
  let told: unknown;
  try {
    told = JSON.parse(line);
  } catch {
    return malformed('no order of the practice world');
  }
  const { faults, ownCall, gateways, says } = (told ?? {}) as Record<string, unknown>;
  if (!Array.isArray(faults) || !faults.every((one) => typeof one === 'string' && isWorldFault(one)))
    return malformed(`a fault is one of ${WORLD_FAULTS.join(', ')}`);
  if (ownCall !== undefined && !isCall(ownCall)) return malformed('the own call is none');
  if (typeof gateways !== 'object' || gateways === null) return malformed('gateways are missing');
  const manners = Object.entries(gateways);
  if (manners.length > MOST_GATEWAYS) return malformed('too many gateways');
  if (!manners.every(([call, manner]) => isCall(call) && MANNERS.includes(manner as GatewayManner)))
    return malformed(`a gateway is ${MANNERS.join(', ')}`);
  if (says !== undefined && !isSaying(says)) return malformed('what is said has from, to and a text');
  return told as PracticeOrder;
}

const isCall = (told: unknown): told is string =>
  typeof told === 'string' && !isMalformed(parseCallSign(told));

function isSaying(told: unknown): told is PracticeOrder['says'] {
  const { from, to, text } = (told ?? {}) as Record<string, unknown>;
  return isCall(from) && isCall(to) && typeof text === 'string' && text.length <= MOST_TEXT;
}
