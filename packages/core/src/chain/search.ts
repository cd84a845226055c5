import type { Connector } from '../kit/connectors.js';
import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import type { Chain, Joint, Level } from './chain.js';
import { COSTS, costOfJoints, costOfPower } from './costs.js';
import { DEMANDS, type Demand } from './purpose.js';
import { trackerChain } from './tracker.js';
import { begin, lastItem, onTo, type Walk } from './walk.js';
import { judgeWhole, keyingOf } from './whole-rules.js';

/** How far a search may go: how many joints may break, how many parts may be missing. */
export interface Bounds {
  readonly breaks: number;
  readonly missing: number;
}

const MOST_STONES = 10;
/** Kept of each place, the cheapest: a second way there leaves room for what only a whole chain can tell. */
const KEPT_PER_PLACE = 2;
const MOST_CHAINS = 5000;

interface Priced {
  readonly walk: Walk;
  readonly cost: number;
  readonly breaks: number;
  readonly missing: number;
}

/**
 * All chains from the items to the purpose, cheapest first: a best-few search, place by place, over what is plugged,
 * paired and joined. spare: what is not owned but could be got. Of equal places only the cheapest ways are followed.
 */
export function searchChains(
  items: readonly Item[],
  purpose: Purpose,
  bounds: Bounds,
  spare: readonly Item[] = [],
): readonly Chain[] {
  const demand = DEMANDS[purpose];
  const shelf = new Shelf(items, bounds.missing > 0 ? spare : []);
  const found: Chain[] = trackers(shelf, purpose, bounds);
  const places = new Map<string, Priced[]>();
  let edge = shelf.radios.flatMap(({ item, isMissing }) =>
    begin(item, isMissing).map((walk) => priced(walk)),
  );
  edge = edge.filter((one) => isWithin(one, bounds));
  for (let length = 1; length < MOST_STONES && edge.length > 0 && found.length < MOST_CHAINS; length++) {
    const next: Priced[] = [];
    for (const { walk } of edge) {
      for (const { item, isMissing } of shelf.after(walk)) {
        for (const one of onTo(walk, item, isMissing, demand)) {
          const step = priced(one);
          if (!isWithin(step, bounds)) continue;
          if (item.app && !item.app.offers) keepWhole(found, one, purpose, demand, bounds);
          else if (isAmongBest(places, step)) next.push(step);
        }
      }
    }
    edge = next;
  }
  return found.sort((a, b) => a.cost - b.cost);
}

const isWithin = ({ breaks, missing }: Priced, bounds: Bounds): boolean =>
  breaks <= bounds.breaks && missing <= bounds.missing;

function keepWhole(found: Chain[], walk: Walk, purpose: Purpose, demand: Demand, bounds: Bounds): void {
  if (!lastItem(walk).app?.does.includes(demand.task)) return;
  const chain = wholeChain(walk, purpose, demand);
  const breaks = countLevel(chain.joints, 'breaks');
  if (breaks <= bounds.breaks) found.push(chain);
}

/** A walk that has come to an app, judged as a whole and priced. */
export function wholeChain(walk: Walk, purpose: Purpose, demand: Demand): Chain {
  const joints = judgeWhole(walk, demand);
  const keying = keyingOf(walk, demand);
  return {
    purpose,
    stones: walk.stones,
    joints,
    ...(keying && demand.transmits ? { keying } : {}),
    cost:
      costOfJoints(joints) +
      costOfMissing(walk) +
      costOfPower(walk.stones) +
      (demand.transmits ? (COSTS.keying[keying ?? ''] ?? 0) : 0),
  };
}

function priced(walk: Walk): Priced {
  const missing = walk.stones.filter(({ isMissing }) => isMissing).length;
  const cost = costOfJoints(walk.joints) + costOfMissing(walk);
  return { walk, cost, breaks: countLevel(walk.joints, 'breaks'), missing };
}

const costOfMissing = ({ stones }: Walk): number =>
  COSTS.missing * stones.filter(({ isMissing }) => isMissing).length;

const countLevel = (joints: readonly Joint[], level: Level): number =>
  joints.reduce((sum, { findings }) => sum + findings.filter((one) => one.level === level).length, 0);

/**
 * Where a walk stands: what lies beyond is the same for all walks there, but for the parts that they have used up. A
 * break or a missing part outweighs all else, so the cheapest of a place has the fewest of them.
 */
function placeOf({ walk }: Priced): string {
  const { exit, flow, host, stones } = walk;
  const radio = stones[0]?.item.id;
  const at = typeof exit === 'string' ? exit : exit.id;
  return [radio, lastItem(walk).id, at, host?.id, flow.signal, flow.transport, flow.keying.join('+')].join(
    '|',
  );
}

function isAmongBest(places: Map<string, Priced[]>, one: Priced): boolean {
  const place = placeOf(one);
  const kept = places.get(place) ?? [];
  if (kept.length >= KEPT_PER_PLACE && one.cost >= (kept.at(-1) as Priced).cost) return false;
  kept.push(one);
  kept.sort((a, b) => a.cost - b.cost);
  places.set(place, kept.slice(0, KEPT_PER_PLACE));
  return true;
}

interface Shelved {
  readonly item: Item;
  readonly isMissing: boolean;
}

/** The items by what they plug into, so that a walk meets only what could fit. */
class Shelf {
  readonly radios: readonly Shelved[];
  private readonly apps: readonly Shelved[];
  private readonly hosts: readonly Shelved[];
  private readonly byConnector = new Map<Connector, Shelved[]>();

  constructor(items: readonly Item[], spare: readonly Item[]) {
    const all: Shelved[] = [
      ...items.map((item) => ({ item, isMissing: false })),
      ...spare.map((item) => ({ item, isMissing: true })),
    ];
    const ofKind = (kind: Item['kind']): Shelved[] => all.filter(({ item }) => item.kind === kind);
    this.radios = ofKind('radio');
    this.apps = ofKind('app');
    this.hosts = ofKind('host');
    for (const shelved of all.filter(({ item }) => item.kind !== 'radio')) {
      for (const connector of new Set(shelved.item.ports.map((port) => port.connector))) {
        const list = this.byConnector.get(connector);
        if (list) list.push(shelved);
        else this.byConnector.set(connector, [shelved]);
      }
    }
  }

  /** What could come next. Nothing is used twice in one chain. */
  after({ exit, stones }: Walk): readonly Shelved[] {
    const near =
      exit === 'inside'
        ? this.apps
        : exit === 'service'
          ? [...this.apps, ...this.hosts]
          : (this.byConnector.get(exit.connector) ?? []);
    return near.filter(({ item }) => !stones.some((stone) => stone.item.id === item.id));
  }
}

/** The radios that send their own position. */
function trackers(shelf: Shelf, purpose: Purpose, bounds: Bounds): Chain[] {
  return shelf.radios.flatMap(({ item, isMissing }) => {
    const chain = isMissing && bounds.missing === 0 ? undefined : trackerChain(item, purpose, isMissing);
    return chain ? [chain] : [];
  });
}
