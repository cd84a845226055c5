import type { LiveKind, LivePayload, Snapshot } from '@mistpeak/contract/live';

type DataOf<Kind extends LiveKind> = Extract<LivePayload, { kind: Kind }>['data'];

/** What a page keeps of one subject: at first, after a snapshot, and after each event of its own. */
export interface Slice<State, Kinds extends LiveKind> {
  readonly empty: State;
  /** What a snapshot does not tell stays as it is. */
  readonly ofSnapshot: (snapshot: Snapshot) => Partial<State>;
  readonly on: { readonly [Kind in Kinds]: (state: State, data: DataOf<Kind>) => Partial<State> };
}

export function withEntry<Value>(
  map: ReadonlyMap<string, Value>,
  key: string,
  value: Value,
): ReadonlyMap<string, Value> {
  return new Map(map).set(key, value);
}

/** By what the key is made of. */
export const mapBy = <Value>(
  values: readonly Value[],
  key: (value: Value) => string,
): ReadonlyMap<string, Value> => new Map(values.map((value) => [key(value), value]));

export function replaceById<Item extends { readonly id: string }>(
  items: readonly Item[],
  item: Item,
): readonly Item[] {
  return items.some(({ id }) => id === item.id)
    ? items.map((one) => (one.id === item.id ? item : one))
    : [...items, item];
}
