import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import type { Bounds } from './bounds.js';
import type { Chain } from './chain.js';
import { Continuations, type Continuation } from './continuations.js';
import { COSTS, costOfJoints, costOfPower } from './costs.js';
import { waysToHosts, type Priced } from './fronts.js';
import { countLevel, JointBook } from './joint-book.js';
import { DEMANDS, type Demand } from './purpose.js';
import { Shelf } from './shelf.js';
import { aloneChain } from './alone.js';
import { keyedIn, take, type Walk } from './walk.js';
import { judgeWhole, keyingOf } from './whole-rules.js';

/** Judged as wholes; what lies behind them is costlier than anything that would be shown. */
const MOST_JUDGED = 1500;

/**
 * All chains from the items to the purpose, cheapest first. What follows in a host does not depend
 * on the radio and is found once for all ways there.
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
  return [...found, ...alone(shelf, purpose, bounds)]
    .filter((chain) => countLevel(chain.joints, 'breaks') <= bounds.breaks)
    .sort((a, b) => a.cost - b.cost);
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

/** What follows in a host was found without the keying, which the walk there brings. */
function grafted(walk: Walk, { steps, joints }: Continuation): Walk {
  return steps.reduce((longer, step, i) => {
    const flow = { ...step.flow, keying: keyedIn(longer, step.stone.item) };
    return take(longer, { ...step, flow }, joints[i] as Walk['joints'][number]);
  }, walk);
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

/** The radios that do it alone. */
function alone(shelf: Shelf, purpose: Purpose, bounds: Bounds): Chain[] {
  return shelf.radios.flatMap(({ item, isMissing }) => {
    const chain = isMissing && bounds.missing === 0 ? undefined : aloneChain(item, purpose, isMissing);
    return chain ? [chain] : [];
  });
}
