import { CONNECTORS, mates, type Transport } from '../kit/connectors.js';
import { portOf, type Item, type Keying, type Port, type Source, type Way } from '../kit/item.js';
import type { Joint, Stone } from './chain.js';
import type { Demand } from './purpose.js';
import { jointName, judge, type Flow, type Meeting } from './rules.js';

/** inside: in a host, open to its apps; service: an app gives it to other programs over TCP. */
type Exit = Port | 'inside' | 'service';

/** Where a chain under way has come to. */
interface Standing {
  readonly exit: Exit;
  readonly flow: Flow;
  /** The host that is inside now. */
  readonly host?: Item;
  /** The app that offers its TCP port. */
  readonly service?: Item;
}

/** A chain under way, from the radio to here. */
export interface Walk extends Standing {
  readonly stones: readonly Stone[];
  readonly joints: readonly Joint[];
  readonly source: Source;
}

/** One stone that could come next, not judged yet. */
export interface Step extends Standing {
  readonly stone: Stone;
  readonly out?: Port;
}

export const lastItem = ({ stones }: Pick<Walk, 'stones'>): Item => (stones.at(-1) as Stone).item;

/** Every way to begin with that radio: its outputs. */
export function begin(radio: Item, isMissing: boolean): Walk[] {
  return (radio.radio?.sources ?? []).flatMap((source) => {
    const left = portOf(radio, source.port);
    if (!left) return [];
    const flow: Flow = { signal: source.gives, keying: source.keying };
    return [{ stones: [{ item: radio, left, isMissing }], joints: [], exit: left, flow, source }];
  });
}

/** Every way on from here to that item. */
export function stepsTo(walk: Walk, item: Item, isMissing: boolean): Step[] {
  const { exit } = walk;
  if (exit === 'inside' || exit === 'service') {
    if (item.app) return toApp(walk, item, isMissing);
    return exit === 'service' && item.host ? overTheNetwork(walk, item, isMissing) : [];
  }
  return item.ports.flatMap((into) => {
    if (!mates(exit, into) || !carries(exit, walk.flow)) return [];
    if (item.host) return intoHost(walk, { item, entered: into, isMissing }, exit, into);
    return item.ways.flatMap((way) => through(walk, item, exit, into, way, isMissing));
  });
}

const carries = ({ connector }: Port, { signal }: Flow): boolean =>
  (CONNECTORS[connector].carries as readonly string[]).includes(signal);

function through(walk: Walk, item: Item, out: Port, into: Port, way: Way, isMissing: boolean): Step[] {
  const left = portOf(item, way.to);
  if (way.from !== into.id || !left || (way.turns && way.turns[0] !== walk.flow.signal)) return [];
  const flow: Flow = {
    signal: way.turns ? way.turns[1] : walk.flow.signal,
    keying: keyedBeyond(walk.flow.keying, way.keys),
  };
  return [{ stone: { item, entered: into, left, isMissing }, out, exit: left, flow }];
}

/** What of the radio's keying can still be worked beyond that way. */
const keyedBeyond = (keying: readonly Keying[], keys: Way['keys']): readonly Keying[] => [
  ...new Set(keys.filter(([from]) => keying.includes(from)).map(([, to]) => to)),
];

function intoHost({ flow }: Walk, stone: Stone, out: Port, into: Port): Step[] {
  return transportsAt(out, into, flow).map((transport) => ({
    stone,
    out,
    exit: 'inside',
    host: stone.item,
    flow: { ...flow, transport },
  }));
}

/** By which way the octets come into a host. Where no Bluetooth profile is shared, as if either side had the other's. */
function transportsAt(out: Port, into: Port, { signal }: Flow): readonly Transport[] {
  if (signal === 'audio') return ['sound'];
  switch (CONNECTORS[into.connector].family) {
    case 'RS-232':
      return ['RS-232'];
    case 'network':
      return ['TCP'];
    case 'Bluetooth': {
      const [mine = [], theirs = []] = [into.profiles, out.profiles];
      const shared = mine.filter((profile) => theirs.includes(profile));
      const possible = shared.length > 0 ? shared : [...new Set([...mine, ...theirs])];
      return possible.map((profile) => `Bluetooth ${profile}` as const);
    }
    default:
      return ['USB'];
  }
}

function toApp(walk: Walk, item: Item, isMissing: boolean): Step[] {
  const { host, service, flow, exit } = walk;
  const { app } = item;
  const hostClass = host?.host?.hostClass;
  if (!app || !host || !hostClass || !app.runsOn.includes(hostClass)) return [];
  const keying = keyedIn(walk, item);
  const stone: Stone = { item, isMissing };
  if (!app.offers) return [{ stone, exit, host, ...(service ? { service } : {}), flow: { ...flow, keying } }];
  const offered: Flow = { signal: app.offers, transport: 'TCP', keying };
  return [{ stone, exit: 'service', host, service: item, flow: offered }];
}

/** How the radio can still be keyed once that item is there. A modem program keys for whoever uses its port. */
export function keyedIn({ flow, service }: Standing, { app }: Item): readonly Keying[] {
  if (!app || service) return flow.keying;
  return flow.keying.filter((one) => one === 'TNC' || app.keysBy.includes(one));
}

function overTheNetwork({ host, service, flow }: Walk, item: Item, isMissing: boolean): Step[] {
  const out = host?.ports.find(({ connector }) => connector === 'network');
  const entered = item.ports.find(({ connector }) => connector === 'network');
  if (!out || !entered) return [];
  const stone: Stone = { item, entered, isMissing };
  return [{ stone, out, exit: 'inside', host: item, ...(service ? { service } : {}), flow }];
}

/** The joint to that stone, judged. */
export function jointTo(walk: Walk, { stone, out }: Step, demand: Demand): Joint {
  const meeting: Meeting = {
    from: lastItem(walk),
    to: stone.item,
    flow: walk.flow,
    demand,
    ...(out ? { out } : {}),
    ...(stone.entered ? { in: stone.entered } : {}),
    ...(walk.stones.length === 1 ? { source: walk.source } : {}),
    ...(walk.host ? { host: walk.host } : {}),
    ...(walk.service ? { service: walk.service } : {}),
  };
  const { signal, transport } = walk.flow;
  return { name: jointName(meeting), signal, findings: judge(meeting), ...(transport ? { transport } : {}) };
}

/** One stone more. */
export function take({ stones, joints, source }: Walk, step: Step, joint: Joint): Walk {
  const { stone, exit, flow, host, service } = step;
  return {
    stones: [...stones, stone],
    joints: [...joints, joint],
    source,
    exit,
    flow,
    ...(host ? { host } : {}),
    ...(service ? { service } : {}),
  };
}
