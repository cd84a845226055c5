import type { Signal, Transport } from '../kit/connectors.js';
import type { Item, Keying, Port } from '../kit/item.js';
import type { SwitchId } from '../kit/switches.js';
import type { Purpose } from '../proof/ladder.js';

/** breaks: it cannot work · switch: it works once something is set · risk: it may work, and why it may not. */
export type Level = 'breaks' | 'switch' | 'risk';

/** What a rule says of one joint. set: which switch of which item would mend it. */
export interface Finding {
  readonly rule: string;
  readonly level: Level;
  readonly itemId: string;
  readonly text: string;
  readonly mend?: string;
  readonly set?: { readonly itemId: string; readonly switch: SwitchId; readonly to: string };
}

/** One thing of the chain, and by which ports the signal comes and goes. missing: it is not owned. */
export interface Stone {
  readonly item: Item;
  readonly entered?: Port;
  readonly left?: Port;
  readonly isMissing: boolean;
}

/** What crosses from one stone to the next, and what the rules say of it. */
export interface Joint {
  readonly name: string;
  readonly signal: Signal;
  readonly transport?: Transport;
  readonly findings: readonly Finding[];
}

/**
 * Radio first, app last. joints[i] stands between stones[i] and stones[i + 1]; a radio alone has one, with itself.
 * keying: how it is made to transmit. cost: the planner’s weight, 10 for one joint.
 */
export interface Chain {
  readonly purpose: Purpose;
  readonly stones: readonly Stone[];
  readonly joints: readonly Joint[];
  readonly keying?: Keying;
  readonly cost: number;
}

/** What the rules come to: all hold, something must be set first, or it cannot work. Whether it works only a trial tells. */
export type ChainState = 'holds' | 'switches' | 'breaks';

/** Its worst finding. */
export function chainState({ joints }: Pick<Chain, 'joints'>): ChainState {
  const levels = joints.flatMap(({ findings }) => findings.map(({ level }) => level));
  if (levels.includes('breaks')) return 'breaks';
  return levels.includes('switch') ? 'switches' : 'holds';
}

export const findingsOf = ({ joints }: Pick<Chain, 'joints'>): readonly Finding[] =>
  joints.flatMap(({ findings }) => findings);

export const itemsOf = ({ stones }: Pick<Chain, 'stones'>): readonly Item[] => stones.map(({ item }) => item);

export const radioOf = (chain: Chain): Item => (chain.stones[0] as Stone).item;
export const appOf = (chain: Chain): Item => (chain.stones.at(-1) as Stone).item;
/** The host that the app runs on: the last of the chain. None where the radio does it alone. */
export const hostOf = (chain: Chain): Item | undefined =>
  chain.stones.findLast(({ item }) => item.kind === 'host')?.item;
export const interfacesOf = (chain: Chain): readonly Item[] =>
  itemsOf(chain).filter(({ kind }) => kind === 'interface');

/** Sound passes through a sound card, so that levels matter. */
export const isSoundChain = ({ joints }: Pick<Chain, 'joints'>): boolean =>
  joints.some(({ transport }) => transport === 'sound');
