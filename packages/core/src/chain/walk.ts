import { CONNECTORS, mates, type Transport } from '../kit/connectors.js';
import { portOf, type Item, type Keying, type Port, type Source, type Way } from '../kit/item.js';
import type { Finding, Joint, Stone } from './chain.js';
import type { Demand } from './purpose.js';
import { jointName, judge, type Flow, type Meeting } from './rules.js';

/** inside: in a host, open to its apps; service: an app gives it to other programs over TCP. */
type Exit = Port | 'inside' | 'service';

/** A chain under way, from the radio to here. */
export interface Walk {
  readonly stones: readonly Stone[];
  readonly joints: readonly Joint[];
  readonly exit: Exit;
  readonly flow: Flow;
  readonly source?: Source;
  /** The host that is inside now. */
  readonly host?: Item;
  /** The app that offers its TCP port. */
  readonly service?: Item;
}

export const lastItem = ({ stones }: Walk): Item => (stones.at(-1) as Stone).item;

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
export function onTo(walk: Walk, item: Item, isMissing: boolean, demand: Demand): Walk[] {
  if (walk.exit === 'inside' || walk.exit === 'service') {
    if (item.app) return toApp(walk, item, isMissing, demand);
    return walk.exit === 'service' && item.host ? overTheNetwork(walk, item, isMissing, demand) : [];
  }
  const out = walk.exit;
  return item.ports.flatMap((into) => {
    if (!mates(out, into) || !carries(out, walk.flow)) return [];
    return item.host
      ? [intoHost(walk, item, out, into, isMissing, demand)]
      : item.ways.flatMap((way) => through(walk, item, out, into, way, isMissing, demand));
  });
}

const carries = ({ connector }: Port, { signal }: Flow): boolean =>
  (CONNECTORS[connector].carries as readonly string[]).includes(signal);

function through(
  walk: Walk,
  item: Item,
  out: Port,
  into: Port,
  way: Way,
  isMissing: boolean,
  demand: Demand,
): Walk[] {
  const left = portOf(item, way.to);
  if (way.from !== into.id || !left || (way.turns && way.turns[0] !== walk.flow.signal)) return [];
  const flow: Flow = {
    signal: way.turns ? way.turns[1] : walk.flow.signal,
    keying: keyedBeyond(walk.flow.keying, way.keys),
  };
  const next = join(walk, item, { out, in: into }, isMissing, demand);
  return [{ ...next, stones: withLeft(next.stones, left), exit: left, flow }];
}

/** What of the radio's keying can still be worked beyond that way. */
const keyedBeyond = (keying: readonly Keying[], keys: Way['keys']): readonly Keying[] => [
  ...new Set(keys.filter(([from]) => keying.includes(from)).map(([, to]) => to)),
];

function intoHost(walk: Walk, host: Item, out: Port, into: Port, isMissing: boolean, demand: Demand): Walk {
  const next = join(walk, host, { out, in: into }, isMissing, demand);
  const transport = transportAt(out, into, walk.flow);
  return { ...next, exit: 'inside', host, flow: { ...walk.flow, transport } };
}

function transportAt(out: Port, into: Port, { signal }: Flow): Transport {
  if (signal === 'audio') return 'sound';
  switch (CONNECTORS[into.connector].family) {
    case 'RS-232':
      return 'RS-232';
    case 'network':
      return 'TCP';
    case 'Bluetooth': {
      // Where no profile is shared the joint breaks, and the app is asked for what its host has.
      const shared = into.profiles?.find((profile) => out.profiles?.includes(profile)) ?? into.profiles?.[0];
      return shared === 'LE' ? 'Bluetooth LE' : 'Bluetooth serial';
    }
    default:
      return 'USB';
  }
}

function toApp(walk: Walk, item: Item, isMissing: boolean, demand: Demand): Walk[] {
  const { app } = item;
  const hostClass = walk.host?.host?.hostClass;
  if (!app || !hostClass || !app.runsOn.includes(hostClass)) return [];
  const next = join(walk, item, {}, isMissing, demand);
  const keying = walk.flow.keying.filter((one) => one === 'TNC' || app.keysBy.includes(one));
  if (!app.offers) return [{ ...next, flow: { ...walk.flow, keying } }];
  const flow: Flow = { signal: app.offers, transport: 'TCP', keying: keying.length > 0 ? ['TNC'] : [] };
  return [{ ...next, exit: 'service', service: item, flow }];
}

function overTheNetwork(walk: Walk, item: Item, isMissing: boolean, demand: Demand): Walk[] {
  const out = walk.host?.ports.find(({ connector }) => connector === 'network');
  const into = item.ports.find(({ connector }) => connector === 'network');
  if (!out || !into) return [];
  return [{ ...join(walk, item, { out, in: into }, isMissing, demand), exit: 'inside', host: item }];
}

/** One stone more: what the rules say of the joint to it. */
function join(
  walk: Walk,
  item: Item,
  ports: { readonly out?: Port; readonly in?: Port },
  isMissing: boolean,
  demand: Demand,
): Walk {
  const from = lastItem(walk);
  const meeting: Meeting = {
    from,
    to: item,
    ...ports,
    flow: walk.flow,
    demand,
    ...(walk.stones.length === 1 && walk.source ? { source: walk.source } : {}),
    ...(walk.host ? { host: walk.host } : {}),
    ...(walk.service ? { service: walk.service } : {}),
  };
  const findings: readonly Finding[] = judge(meeting);
  const { signal, transport } = walk.flow;
  const joint: Joint = {
    name: jointName(meeting),
    signal,
    findings,
    ...(transport ? { transport } : {}),
  };
  const stone: Stone = { item, isMissing, ...(ports.in ? { entered: ports.in } : {}) };
  return { ...walk, stones: [...walk.stones, stone], joints: [...walk.joints, joint] };
}

const withLeft = (stones: readonly Stone[], left: Port): readonly Stone[] => [
  ...stones.slice(0, -1),
  { ...(stones.at(-1) as Stone), left },
];
