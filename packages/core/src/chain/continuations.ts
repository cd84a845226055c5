import type { Joint } from './chain.js';
import { COSTS } from './costs.js';
import type { JointBook } from './joint-book.js';
import type { Demand } from './purpose.js';
import type { Bounds } from './bounds.js';
import type { Shelf, Shelved } from './shelf.js';
import { stepsTo, type Step, type Walk } from './walk.js';

/** What follows in a host, to an app that does what is wanted. */
export interface Continuation {
  readonly steps: readonly Step[];
  readonly joints: readonly Joint[];
  readonly cost: number;
  readonly breaks: number;
  readonly missing: number;
}

/** Kept of each place, the cheapest. */
const KEPT = 8;
/** Of what follows on another host: dozens of hosts on one network would fill the list with the like. */
const KEPT_BEYOND_NETWORK = 3;

/** Where one is in a host: enough to go on from, however one came there. */
type Place = Pick<Walk, 'stones' | 'joints' | 'source' | 'exit' | 'flow' | 'host' | 'service'>;

/** All that can follow from inside a host, each place worked out once, whatever the keying: no joint depends on it. */
export class Continuations {
  private readonly known = new Map<string, readonly Continuation[]>();

  constructor(
    private readonly shelf: Shelf,
    private readonly joints: JointBook,
    private readonly demand: Demand,
    private readonly bounds: Bounds,
  ) {}

  /** Cheapest first. Apps within the walk itself are not excluded. */
  after(place: Place): readonly Continuation[] {
    const { exit, flow, host, service } = place;
    const key = `${exit === 'service' ? exit : 'inside'}|${host?.id}|${service?.id}|${flow.signal}|${flow.transport}`;
    const known = this.known.get(key);
    if (known) return known;
    const found = this.shelf
      .after(exit)
      .filter(({ item }) => item !== host && item !== service)
      .flatMap((next) => this.byWayOf(place, next))
      .sort((a, b) => a.cost - b.cost)
      .slice(0, KEPT);
    this.known.set(key, found);
    return found;
  }

  private byWayOf(place: Place, { item, isMissing }: Shelved): Continuation[] {
    const { app } = item;
    const isEnd = app !== undefined && app.offers === undefined;
    if (isEnd && !app.does.includes(this.demand.task)) return [];
    return stepsTo(place, item, isMissing).flatMap((step) => {
      const judged = this.joints.judged(place, step);
      const missing = isMissing ? 1 : 0;
      if (judged.breaks > (isEnd ? this.bounds.breaks : 0) || missing > this.bounds.missing) return [];
      const here: Continuation = {
        steps: [step],
        joints: [judged.joint],
        cost: judged.cost + missing * COSTS.missing,
        breaks: judged.breaks,
        missing,
      };
      if (isEnd) return [here];
      const rests = this.after(beyond(place, step));
      return (item.host ? rests.slice(0, KEPT_BEYOND_NETWORK) : rests).flatMap((rest) =>
        this.joined(here, rest),
      );
    });
  }

  private joined(here: Continuation, rest: Continuation): Continuation[] {
    const breaks = here.breaks + rest.breaks;
    const missing = here.missing + rest.missing;
    const isTwice = rest.steps.some(({ stone }) => stone.item.id === here.steps[0]?.stone.item.id);
    if (isTwice || breaks > this.bounds.breaks || missing > this.bounds.missing) return [];
    return [
      {
        steps: [...here.steps, ...rest.steps],
        joints: [...here.joints, ...rest.joints],
        cost: here.cost + rest.cost,
        breaks,
        missing,
      },
    ];
  }
}

/** The place after that step. Only the last stones matter from here on. */
function beyond({ stones, joints, source }: Place, { stone, exit, flow, host, service }: Step): Place {
  return {
    stones: [...stones, stone],
    joints,
    source,
    exit,
    flow,
    ...(host ? { host } : {}),
    ...(service ? { service } : {}),
  };
}
