import { malformed, type Malformed } from '../bits/malformed.js';
import { CONNECTORS, ENDS, isConnector, type Signal, type Transport } from './connectors.js';
import {
  APP_TASKS,
  BANDS,
  BLUETOOTH_PROFILES,
  HOST_CLASSES,
  ITEM_KINDS,
  KEYINGS,
  USB_ROLES,
  type Item,
  type Port,
  type Way,
} from './item.js';
import { isSwitchId } from './switches.js';

/** The kit as a file, docs/kit.md: what it is, the version of the form, the items. */
export const KIT_FORMAT = 'mistpeak-kit';
export const KIT_VERSION = 1;

const SIGNALS: readonly Signal[] = ['audio', 'KISS', 'text', 'modem ports'];
const TRANSPORTS: readonly Transport[] = [
  'sound',
  'USB',
  'RS-232',
  'Bluetooth serial',
  'Bluetooth LE',
  'TCP',
];
const MOST_TEXT = 200;
const MOST_ITEMS = 1000;
const MOST_PARTS = 40;

/** What is wrong, and in which place: thrown and caught in this file only, so that each reader is one line. */
class Wrong extends Error {}

type Reader<Value> = (value: unknown, place: string) => Value;
type Fields = Readonly<Record<string, unknown>>;

const fail = (place: string, expected: string): never => {
  throw new Wrong(`${place} must be ${expected}`);
};

const text: Reader<string> = (value, place) =>
  typeof value === 'string' && value.length <= MOST_TEXT
    ? value
    : fail(place, `text of at most ${MOST_TEXT} characters`);
const named: Reader<string> = (value, place) =>
  text(value, place).trim() === '' ? fail(place, 'given') : text(value, place).trim();
const flag: Reader<boolean> = (value, place) =>
  typeof value === 'boolean' ? value : fail(place, 'true or false');
const quantity: Reader<number> = (value, place) =>
  typeof value === 'number' && value >= 0 && value <= 1e6
    ? value
    : fail(place, 'a number from 0 to 1,000,000');
const fields: Reader<Fields> = (value, place) =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? (value as Fields)
    : fail(place, 'an object with named fields');

const oneOf =
  <Value extends string>(options: readonly Value[]): Reader<Value> =>
  (value, place) =>
    options.find((option) => option === value) ?? fail(place, `one of ${options.join(', ')}`);

const listOf =
  <Value>(reader: Reader<Value>, most = MOST_PARTS): Reader<readonly Value[]> =>
  (value, place) => {
    if (!Array.isArray(value) || value.length > most) return fail(place, `a list of at most ${most}`);
    return value.map((one, i) => reader(one, `${place}[${i}]`));
  };

const pairOf =
  <Left, Right>(left: Reader<Left>, right: Reader<Right>): Reader<readonly [Left, Right]> =>
  (value, place) =>
    Array.isArray(value) && value.length === 2
      ? [left(value[0], `${place}[0]`), right(value[1], `${place}[1]`)]
      : fail(place, 'a pair');

/** An optional field, absent if it is absent. */
function maybe<Name extends string, Value>(
  from: Fields,
  name: Name,
  reader: Reader<Value>,
  place: string,
): { readonly [Key in Name]?: Value } {
  const value = from[name];
  if (value === undefined || value === null) return {};
  return { [name]: reader(value, `${place}.${name}`) } as { readonly [Key in Name]?: Value };
}

const port: Reader<Port> = (value, place) => {
  const from = fields(value, place);
  const { connector } = from;
  if (!isConnector(connector))
    return fail(`${place}.connector`, `one of ${Object.keys(CONNECTORS).join(', ')}`);
  return {
    id: named(from.id, `${place}.id`),
    connector,
    end: oneOf(ENDS)(from.end, `${place}.end`),
    ...maybe(from, 'name', text, place),
    ...maybe(from, 'usb', oneOf(USB_ROLES), place),
    ...maybe(from, 'profiles', listOf(oneOf(BLUETOOTH_PROFILES)), place),
  };
};

const signal = oneOf(SIGNALS);
const keying = oneOf(KEYINGS);

const way: Reader<Way> = (value, place) => {
  const from = fields(value, place);
  return {
    from: named(from.from, `${place}.from`),
    to: named(from.to, `${place}.to`),
    ...maybe(from, 'turns', pairOf(signal, signal), place),
    keys: listOf(pairOf(keying, keying))(from.keys ?? [], `${place}.keys`),
  };
};

const radio: Reader<NonNullable<Item['radio']>> = (value, place) => {
  const from = fields(value, place);
  return {
    bands: listOf(oneOf(BANDS))(from.bands, `${place}.bands`),
    transmits: flag(from.transmits, `${place}.transmits`),
    ...maybe(from, 'watts', quantity, place),
    hasTracker: flag(from.hasTracker ?? false, `${place}.hasTracker`),
    ...maybe(from, 'hasMessagePage', flag, place),
    sources: listOf((one, at) => {
      const source = fields(one, at);
      return {
        port: named(source.port, `${at}.port`),
        gives: signal(source.gives, `${at}.gives`),
        keying: listOf(keying)(source.keying ?? [], `${at}.keying`),
        ...maybe(source, 'since', text, at),
      };
    })(from.sources, `${place}.sources`),
  };
};

const host: Reader<NonNullable<Item['host']>> = (value, place) => {
  const from = fields(value, place);
  return {
    hostClass: oneOf(HOST_CLASSES)(from.hostClass, `${place}.hostClass`),
    hasScreen: flag(from.hasScreen ?? true, `${place}.hasScreen`),
  };
};

const app: Reader<NonNullable<Item['app']>> = (value, place) => {
  const from = fields(value, place);
  return {
    runsOn: listOf(oneOf(HOST_CLASSES))(from.runsOn, `${place}.runsOn`),
    opens: listOf((one, at) => {
      const opening = fields(one, at);
      return {
        signal: signal(opening.signal, `${at}.signal`),
        over: listOf(oneOf(TRANSPORTS))(opening.over, `${at}.over`),
      };
    })(from.opens, `${place}.opens`),
    keysBy: listOf(keying)(from.keysBy ?? [], `${place}.keysBy`),
    does: listOf(oneOf(APP_TASKS))(from.does, `${place}.does`),
    ...maybe(from, 'offers', signal, place),
    isMistpeak: flag(from.isMistpeak ?? false, `${place}.isMistpeak`),
  };
};

const gain: Reader<number> = (value, place) =>
  typeof value === 'number' && Math.abs(value) <= 40 ? value : fail(place, 'a number from -40 to 40');

const antenna: Reader<NonNullable<Item['antenna']>> = (value, place) => {
  const from = fields(value, place);
  return {
    gainDbi: gain(from.gainDbi, `${place}.gainDbi`),
    heightM: quantity(from.heightM, `${place}.heightM`),
    feedLossDb: quantity(from.feedLossDb ?? 0, `${place}.feedLossDb`),
  };
};

const switches: Reader<Item['switches']> = (value, place) =>
  Object.fromEntries(
    Object.entries(fields(value, place)).map(([id, now]) =>
      isSwitchId(id) ? [id, text(now, `${place}.${id}`)] : fail(`${place}.${id}`, 'a switch that is known'),
    ),
  );

const item: Reader<Item> = (value, place) => {
  const from = fields(value, place);
  const kind = oneOf(ITEM_KINDS)(from.kind, `${place}.kind`);
  const read: Item = {
    id: named(from.id, `${place}.id`),
    kind,
    name: named(from.name, `${place}.name`),
    about: text(from.about ?? '', `${place}.about`),
    ...maybe(from, 'version', text, place),
    isHere: flag(from.isHere ?? true, `${place}.isHere`),
    ...maybe(from, 'drawMilliamps', quantity, place),
    ...maybe(from, 'isUnproven', flag, place),
    ports: listOf(port)(from.ports ?? [], `${place}.ports`),
    ways: listOf(way)(from.ways ?? [], `${place}.ways`),
    switches: switches(from.switches ?? {}, `${place}.switches`),
    ...maybe(from, 'radio', radio, place),
    ...maybe(from, 'host', host, place),
    ...maybe(from, 'app', app, place),
    ...maybe(from, 'antenna', antenna, place),
  };
  checkTogether(read, place);
  return read;
};

/** What each field alone cannot tell: facts of its kind, and ports that are named elsewhere. */
function checkTogether(read: Item, place: string): void {
  const facts = { radio: read.radio, host: read.host, app: read.app } as Readonly<Record<string, unknown>>;
  if (read.kind in facts && facts[read.kind] === undefined)
    fail(`${place}.${read.kind}`, 'given for this kind');
  const ids = read.ports.map(({ id }) => id);
  if (new Set(ids).size < ids.length) fail(`${place}.ports`, 'a list of ports with different ids');
  const used = [
    ...read.ways.flatMap(({ from, to }) => [from, to]),
    ...(read.radio?.sources.map((source) => source.port) ?? []),
  ];
  const unknown = used.find((id) => !ids.includes(id));
  if (unknown !== undefined)
    fail(`${place}.ports`, `a list with a port “${unknown}”, which is named elsewhere`);
}

function guarded<Value>(read: () => Value): Value | Malformed {
  try {
    return read();
  } catch (error) {
    if (error instanceof Wrong) return malformed(error.message);
    throw error;
  }
}

/** One item as it comes from outside; the refusal names the field. */
export const parseItem = (value: unknown): Item | Malformed => guarded(() => item(value, 'item'));

/** A kit file; nothing of it is taken if any of it is wrong. */
export function parseKit(json: string): readonly Item[] | Malformed {
  let value: unknown;
  try {
    value = JSON.parse(json);
  } catch {
    return malformed('this is not JSON');
  }
  return guarded(() => {
    const from = fields(value, 'the file');
    if (from.format !== KIT_FORMAT) fail('format', `“${KIT_FORMAT}”`);
    if (from.version !== KIT_VERSION) fail('version', `${KIT_VERSION}, the only one so far`);
    const items = listOf(item, MOST_ITEMS)(from.items, 'items');
    const ids = items.map(({ id }) => id);
    if (new Set(ids).size < ids.length) fail('items', 'a list of items with different ids');
    return items;
  });
}

export const formatKit = (items: readonly Item[]): string =>
  `${JSON.stringify({ format: KIT_FORMAT, version: KIT_VERSION, items }, null, 2)}\n`;
