import type { Item } from '../kit/item.js';
import { COSTS } from './costs.js';
import type { Judged, JointBook } from './joint-book.js';
import type { Bounds } from './bounds.js';
import type { Shelf } from './shelf.js';
import { begin, lastItem, stepsTo, take, type Step, type Walk } from './walk.js';

/** Radio, cables, adapters, interfaces: what stands before the first host. */
const MOST_BEFORE_HOST = 7;
/** Kept of each place, the cheapest: a second way there leaves room for what only a whole chain can tell. */
const KEPT_PER_PLACE = 2;

/** cost, breaks, missing: of the walk so far. place: where it stands; what follows is the same for all who stand there. */
export interface Priced {
  readonly walk: Walk;
  readonly place: string;
  readonly cost: number;
  readonly breaks: number;
  readonly missing: number;
}

/** One stone more, with its joint judged, and the place that it leads to. */
interface Onward {
  readonly step: Step;
  readonly judged: Judged;
  readonly place: string;
}

/** The best few ways from each radio into each host: a best-few search, place by place, over what is plugged and paired. */
export function waysToHosts(shelf: Shelf, joints: JointBook, bounds: Bounds): Priced[] {
  const places = new Places(shelf, joints);
  return shelf.radios.flatMap(({ item, isMissing }) =>
    waysFrom(
      begin(item, isMissing).map((walk) => atRadio(walk)),
      places,
      bounds,
    ),
  );
}

function waysFrom(starts: readonly Priced[], places: Places, bounds: Bounds): Priced[] {
  const between = new BestOfPlaces();
  const inHosts = new BestOfPlaces();
  let edge = starts;
  for (let length = 1; length < MOST_BEFORE_HOST && edge.length > 0; length++) {
    for (const from of edge) {
      for (const onward of places.onwardFrom(from)) {
        const { item } = onward.step.stone;
        const best = item.host ? inHosts : between;
        if (!best.hasRoom(onward.place, from.cost + onward.judged.cost) || hasUsed(from.walk, item)) continue;
        const next = longer(from, onward);
        if (next.breaks <= bounds.breaks && next.missing <= bounds.missing) best.keep(next);
      }
    }
    edge = between.takeNew();
  }
  return inHosts.takeNew();
}

/** Nothing is used twice in one chain. */
const hasUsed = ({ stones }: Walk, item: Item): boolean => stones.some((stone) => stone.item === item);

function atRadio(walk: Walk): Priced {
  const missing = walk.stones[0]?.isMissing ? 1 : 0;
  return { walk, place: placeOf(lastItem(walk), walk), cost: missing * COSTS.missing, breaks: 0, missing };
}

function longer(from: Priced, { step, judged, place }: Onward): Priced {
  const missing = step.stone.isMissing ? 1 : 0;
  return {
    walk: take(from.walk, step, judged.joint),
    place,
    cost: from.cost + judged.cost + missing * COSTS.missing,
    breaks: from.breaks + judged.breaks,
    missing: from.missing + missing,
  };
}

function placeOf({ id }: Item, { exit, flow }: Pick<Step, 'exit' | 'flow'>): string {
  const at = typeof exit === 'string' ? exit : exit.id;
  return `${id}|${at}|${flow.signal}|${flow.transport}|${flow.keying.join()}`;
}

/** What can follow at each place, worked out once for all walks that come there. */
class Places {
  private readonly known = new Map<string, readonly Onward[]>();

  constructor(
    private readonly shelf: Shelf,
    private readonly joints: JointBook,
  ) {}

  onwardFrom({ walk, place }: Priced): readonly Onward[] {
    const known = this.known.get(place);
    if (known) return known;
    const onward = this.shelf
      .after(walk.exit)
      .flatMap(({ item, isMissing }) => stepsTo(walk, item, isMissing))
      .map((step) => ({
        step,
        judged: this.joints.judged(walk, step),
        place: placeOf(step.stone.item, step),
      }));
    this.known.set(place, onward);
    return onward;
  }
}

/**
 * The cheapest few walks to each place. A break or a missing part outweighs all else, so the cheapest of a place has
 * the fewest of them.
 */
class BestOfPlaces {
  private readonly best = new Map<string, Priced[]>();
  private fresh = new Set<Priced>();

  /** False when nothing that costs so much can be among the best there. */
  hasRoom(place: string, cost: number): boolean {
    const kept = this.best.get(place);
    return !kept || kept.length < KEPT_PER_PLACE || cost < (kept.at(-1) as Priced).cost;
  }

  keep(one: Priced): void {
    if (!this.hasRoom(one.place, one.cost)) return;
    const kept = [...(this.best.get(one.place) ?? []), one].sort((a, b) => a.cost - b.cost);
    for (const dropped of kept.splice(KEPT_PER_PLACE)) this.fresh.delete(dropped);
    this.best.set(one.place, kept);
    this.fresh.add(one);
  }

  /** Those kept since the last time. */
  takeNew(): Priced[] {
    const taken = [...this.fresh];
    this.fresh = new Set();
    return taken;
  }
}
