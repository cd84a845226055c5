import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import type { Chain } from './chain.js';
import { DEMANDS } from './purpose.js';
import { wholeChain } from './search.js';
import { aloneChain } from './alone.js';
import { begin, jointTo, stepsTo, take, type Walk } from './walk.js';

/**
 * The best chain of just these items in this order; undefined where two of them do not go together at all.
 * radioPort: the port of the radio to begin with, where that is known.
 */
export function followChain(items: readonly Item[], purpose: Purpose, radioPort?: string): Chain | undefined {
  const [radio, ...rest] = items;
  if (!radio) return undefined;
  if (rest.length === 0) return aloneChain(radio, purpose, false);
  const demand = DEMANDS[purpose];
  const walks = rest.reduce<Walk[]>(
    (kept, item) =>
      kept.flatMap((walk) =>
        stepsTo(walk, item, false).map((step) => take(walk, step, jointTo(walk, step, demand))),
      ),
    begin(radio, false).filter(({ stones }) => radioPort === undefined || stones[0]?.left?.id === radioPort),
  );
  return walks
    .filter(({ stones }) => stones.at(-1)?.item.app?.does.includes(demand.task))
    .map((walk) => wholeChain(walk, purpose, demand))
    .sort((a, b) => a.cost - b.cost)[0];
}

/** A change of one chain: another part in one place, one more at a joint, one less. */
export interface Alternative {
  readonly kind: 'instead' | 'between' | 'without';
  readonly at: number;
  readonly item: Item;
  readonly chain: Chain;
}

/** What could stand instead of stone `at`, cheapest first; and whether it could be left out. */
export function alternativesAt(chain: Chain, at: number, kit: readonly Item[]): readonly Alternative[] {
  const items = chain.stones.map(({ item }) => item);
  const old = items[at];
  if (!old) throw new RangeError(`no stone ${at}`);
  const others = kit.filter(({ id }) => !items.some((item) => item.id === id));
  const instead = others.flatMap((item) => variant(chain, items.with(at, item), 'instead', at, item));
  const without = variant(chain, items.toSpliced(at, 1), 'without', at, old);
  return cheapestFirst([...without, ...instead]);
}

/** What could be put in between stone `at` and the next, cheapest first. */
export function insertionsAt(chain: Chain, at: number, kit: readonly Item[]): readonly Alternative[] {
  const items = chain.stones.map(({ item }) => item);
  const others = kit.filter(({ id }) => !items.some((item) => item.id === id));
  return cheapestFirst(
    others.flatMap((item) => variant(chain, items.toSpliced(at + 1, 0, item), 'between', at, item)),
  );
}

/** The changed chain; while the radio stays, it goes out by the same port. */
function variant(
  { purpose, stones }: Chain,
  items: readonly Item[],
  kind: Alternative['kind'],
  at: number,
  item: Item,
): Alternative[] {
  const [radio] = stones;
  const chain = followChain(items, purpose, items[0]?.id === radio?.item.id ? radio?.left?.id : undefined);
  return chain ? [{ kind, at, item, chain }] : [];
}

const cheapestFirst = (alternatives: readonly Alternative[]): readonly Alternative[] =>
  [...alternatives].sort((a, b) => a.chain.cost - b.chain.cost);
