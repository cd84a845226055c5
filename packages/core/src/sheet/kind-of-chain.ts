import { appOf, isSoundChain, radioOf, type Chain, type Stone } from '../chain/chain.js';
import { DEMANDS } from '../chain/purpose.js';
import type { Signal } from '../kit/connectors.js';
import type { Item, Keying } from '../kit/item.js';

/** What a chain is, as far as a step of its sheet can depend on it. */
export interface ChainKind {
  /** The radio does it with nothing linked to it. */
  readonly isAlone: boolean;
  readonly transmits: boolean;
  readonly isAprs: boolean;
  /** Mail by way of a gateway; peer to peer there is none. */
  readonly isGatewayMail: boolean;
  readonly isPeerMail: boolean;
  readonly isSession: boolean;
  readonly isFm: boolean;
  /** What the radio gives, and what the app at the end opens. */
  readonly fromRadio: Signal;
  readonly toApp: Signal;
  /** Packets that any receiver of packet reads; not those of a sound modem with a way of its own. */
  readonly isPacket: boolean;
  /** A program at a sound card is the modem, so that levels matter; its own, or that of a modem program. */
  readonly isSound: boolean;
  /** By what the radio is made to transmit; none where it only receives. */
  readonly keyedBy: Keying | undefined;
  readonly isHandheld: boolean;
  /** Another computer lies between modem and app. */
  readonly isNetworked: boolean;
  readonly endsInMistpeak: boolean;
}

/** Of a set on a battery or a supply the library knows at least so much; below it is held in a hand. */
const LEAST_MOBILE_WATTS = 10;

export function kindOf(chain: Chain): ChainKind {
  const { purpose, joints, stones } = chain;
  const isAlone = stones.length === 1;
  const demand = DEMANDS[purpose];
  const radio = radioOf(chain);
  const isMail = purpose === 'mail' || purpose === 'sound mail';
  return {
    isAlone,
    transmits: demand.transmits,
    isAprs: !demand.isSession,
    isGatewayMail: isMail,
    isPeerMail: purpose === 'peer mail',
    isSession: purpose === 'session',
    isFm: radio.radio?.bands.includes('VHF FM') ?? true,
    fromRadio: isAlone ? 'KISS' : (joints[0]?.signal ?? 'audio'),
    toApp: joints.at(-1)?.signal ?? 'audio',
    isPacket: joints.at(-1)?.signal !== 'modem ports',
    isSound: !isAlone && isSoundChain(chain),
    keyedBy: demand.transmits ? chain.keying : undefined,
    isHandheld: radio.radio?.transmits === true && (radio.radio.watts ?? 0) < LEAST_MOBILE_WATTS,
    isNetworked: joints.some(({ name }) => name.includes('network')),
    endsInMistpeak: appOf(chain).app?.isMistpeak ?? false,
  };
}

/** Where in the chain an item stands: what comes to it, and by which connectors. */
export function placeOf({ stones, joints }: Chain, item: Item) {
  const at = stones.findIndex((stone) => stone.item.id === item.id);
  return {
    entersBy: stones[at]?.entered?.connector,
    leavesBy: stones[at]?.left?.connector,
    before: joints[at - 1],
    after: joints[at],
  };
}

/** What is plugged, not paired, joined or held near. */
export const isPlugged = ({ entered }: Stone): boolean =>
  entered !== undefined && !['bluetooth', 'network', 'open-air'].includes(entered.connector);

/** Plugs that have to be home. */
export const countPlugs = ({ stones }: Chain): number => stones.filter(isPlugged).length;
