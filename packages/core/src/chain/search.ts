import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import type { Chain } from './chain.js';
import { Continuations, type Continuation } from './continuations.js';
import { COSTS, costOfJoints, costOfPower } from './costs.js';
import { countLevel, JointBook } from './joint-book.js';
import { DEMANDS, type Demand } from './purpose.js';
import { Shelf } from './shelf.js';
import { trackerChain } from './tracker.js';
import { begin, stepsTo, take, type Step, type Walk } from './walk.js';
import { judgeWhole, keyingOf } from './whole-rules.js';

/** How far a search may go: how many joints may break, how many parts may be missing. */
export interface Bounds {
  readonly breaks: number;
  readonly missing: number;
}

/** Radio, cables, adapters, interfaces: what stands before the first host. */
const MOST_BEFORE_HOST = 7;
/** Kept of each place, the cheapest: a second way there leaves room for what only a whole chain can tell. */
const KEPT_PER_PLACE = 2;
/** Judged as wholes; what lies behind them is costlier than anything that would be shown. */
const MOST_JUDGED = 1500;

/** cost, breaks, missing: of the walk so far. */
export interface Priced {
  readonly walk: Walk;
  readonly cost: number;
  readonly breaks: number;
  readonly missing: number;
}

/**
 * All chains from the items to the purpose, cheapest first. From each radio to each host it is a best-few search, place
 * by place, over what is plugged and paired; what follows in a host does not depend on the radio and is found once.
 * spare: what is not owned but could be got. joints: judged before for the same purpose and items.
 */
export function searchChains(
  items: readonly Item[],
  purpose: Purpose,
  bounds: Bounds,
  spare: readonly Item[] = [],
  joints = new JointBook(DEMANDS[purpose]),
): readonly Chain[] {
  const demand = DEMANDS[purpose];
  const shelf = new Shelf(items, bounds.missing > 0 ? spare : []);
  const continuations = new Continuations(shelf, joints, demand, bounds);
  const whole = waysToHosts(shelf, joints, bounds).flatMap((front) => ends(front, continuations, bounds));
  const found = whole
    .sort((a, b) => a.cost - b.cost)
    .slice(0, MOST_JUDGED)
    .map(({ front, back }) => wholeChain(grafted(front.walk, back), purpose, demand));
  return [...found, ...trackers(shelf, purpose, bounds)]
    .filter((chain) => countLevel(chain.joints, 'breaks') <= bounds.breaks)
    .sort((a, b) => a.cost - b.cost);
}

/** The best few ways from each radio into each host. */
function waysToHosts(shelf: Shelf, joints: JointBook, bounds: Bounds): Priced[] {
  const places = new BestPlaces();
  const hosts = new BestPlaces();
  let edge = shelf.radios.flatMap(({ item, isMissing }) => begin(item, isMissing).map(atRadio));
  for (let length = 1; length < MOST_BEFORE_HOST && edge.length > 0; length++) {
    for (const from of edge) {
      for (const { item, isMissing } of shelf.after(from.walk)) {
        for (const step of stepsTo(from.walk, item, isMissing)) {
          const kept = item.host ? hosts : places;
          const place = placeOf(from.walk, step);
          if (!kept.hasRoom(place, from.cost + COSTS.joint)) continue;
          const next = withStep(from, step, joints);
          if (next.breaks <= bounds.breaks && next.missing <= bounds.missing) kept.keep(place, next);
        }
      }
    }
    edge = places.takeNew();
  }
  return hosts.takeNew();
}

interface Grafted {
  readonly front: Priced;
  readonly back: Continuation;
  readonly cost: number;
}

/** A way into a host with all that can follow there. */
function ends(front: Priced, continuations: Continuations, bounds: Bounds): Grafted[] {
  const used = new Set(front.walk.stones.map(({ item }) => item.id));
  return continuations
    .after(front.walk)
    .filter(
      (back) =>
        front.breaks + back.breaks <= bounds.breaks &&
        front.missing + back.missing <= bounds.missing &&
        !back.steps.some(({ stone }) => used.has(stone.item.id)),
    )
    .map((back) => ({ front, back, cost: front.cost + back.cost }));
}

function grafted(walk: Walk, { steps, joints }: Continuation): Walk {
  return steps.reduce((longer, step, i) => take(longer, step, joints[i] as Walk['joints'][number]), walk);
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
      COSTS.missing * walk.stones.filter(({ isMissing }) => isMissing).length +
      costOfPower(walk.stones) +
      (demand.transmits ? (COSTS.keying[keying ?? ''] ?? 0) : 0),
  };
}

function atRadio(walk: Walk): Priced {
  const missing = walk.stones[0]?.isMissing ? 1 : 0;
  return { walk, cost: missing * COSTS.missing, breaks: 0, missing };
}

function withStep(from: Priced, step: Step, joints: JointBook): Priced {
  const judged = joints.judged(from.walk, step);
  const isMissing = step.stone.isMissing ? 1 : 0;
  return {
    walk: take(from.walk, step, judged.joint),
    cost: from.cost + judged.cost + isMissing * COSTS.missing,
    breaks: from.breaks + judged.breaks,
    missing: from.missing + isMissing,
  };
}

/**
 * Where a step leads: what lies beyond is the same for all walks there, but for the parts that they have used up. A
 * break or a missing part outweighs all else, so the cheapest of a place has the fewest of them.
 */
function placeOf({ stones }: Walk, { stone, exit, flow }: Step): string {
  const at = typeof exit === 'string' ? exit : exit.id;
  return `${stones[0]?.item.id}|${stone.item.id}|${at}|${flow.signal}|${flow.transport}|${flow.keying.join()}`;
}

/** The cheapest few walks to each place. */
class BestPlaces {
  private readonly places = new Map<string, Priced[]>();
  private fresh = new Set<Priced>();

  /** False when nothing that costs so much can be among the best there. */
  hasRoom(place: string, leastCost: number): boolean {
    const kept = this.places.get(place);
    return !kept || kept.length < KEPT_PER_PLACE || leastCost < (kept.at(-1) as Priced).cost;
  }

  keep(place: string, one: Priced): void {
    if (!this.hasRoom(place, one.cost)) return;
    const kept = [...(this.places.get(place) ?? []), one].sort((a, b) => a.cost - b.cost);
    for (const dropped of kept.splice(KEPT_PER_PLACE)) this.fresh.delete(dropped);
    this.places.set(place, kept);
    this.fresh.add(one);
  }

  /** Those kept since the last time. */
  takeNew(): Priced[] {
    const taken = [...this.fresh];
    this.fresh = new Set();
    return taken;
  }
}

/** The radios that send their own position. */
function trackers(shelf: Shelf, purpose: Purpose, bounds: Bounds): Chain[] {
  return shelf.radios.flatMap(({ item, isMissing }) => {
    const chain = isMissing && bounds.missing === 0 ? undefined : trackerChain(item, purpose, isMissing);
    return chain ? [chain] : [];
  });
}
