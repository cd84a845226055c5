import type { Position } from '../geo/position.js';
import { wayTo } from '../geo/position.js';
import { shareOf, type Share } from '../path-lab/share.js';

/** One beacon of ours and what became of it. path: as it was asked for. */
export interface SentBeacon {
  readonly atMs: number;
  readonly position?: Position;
  readonly path: string;
  readonly echoes: readonly { readonly by: string | null; readonly afterMs: number }[];
  /** Gates that heard it on radio, as the internet side tells. */
  readonly gates?: readonly { readonly by: string }[];
}

/** A place by the operator's own name. */
export interface LabelledPlace {
  readonly name: string;
  readonly position: Position;
  readonly radiusM: number;
}

/** How beacons of one kind fared: repeated by anybody, by whom, how soon in the middle. */
export interface Yield {
  readonly key: string;
  readonly repeated: Share;
  readonly by: readonly { readonly call: string; readonly count: number }[];
  readonly medianAfterMs?: number;
  /** How many were seen at a gate. */
  readonly atGate: number;
}

/** The nearest label within its radius. */
export function placeOf(
  position: Position | undefined,
  places: readonly LabelledPlace[],
): string | undefined {
  if (!position) return undefined;
  const near = places
    .map((place) => ({ place, metres: wayTo(position, place.position).distanceKm * 1000 }))
    .filter(({ place, metres }) => metres <= place.radiusM)
    .sort((a, b) => a.metres - b.metres);
  return near[0]?.place.name;
}

/** Beacons by what keyOf says of them, the most first; those of which it says nothing are left out. */
export function yieldsBy(
  beacons: readonly SentBeacon[],
  keyOf: (beacon: SentBeacon) => string | undefined,
): Yield[] {
  const groups = new Map<string, SentBeacon[]>();
  for (const beacon of beacons) {
    const key = keyOf(beacon);
    if (key !== undefined) groups.set(key, [...(groups.get(key) ?? []), beacon]);
  }
  return [...groups]
    .map(([key, group]) => yieldOf(key, group))
    .sort((a, b) => b.repeated.trials - a.repeated.trials);
}

function yieldOf(key: string, beacons: readonly SentBeacon[]): Yield {
  const counts = new Map<string, number>();
  const delays: number[] = [];
  let repeated = 0;
  for (const { echoes } of beacons) {
    const by = new Set(echoes.flatMap(({ by: call }) => (call === null ? [] : [call])));
    if (by.size > 0) repeated++;
    for (const call of by) counts.set(call, (counts.get(call) ?? 0) + 1);
    const first = echoes.filter(({ by: call }) => call !== null).map(({ afterMs }) => afterMs);
    if (first.length > 0) delays.push(Math.min(...first));
  }
  delays.sort((a, b) => a - b);
  const atGate = beacons.filter(({ gates = [] }) => gates.length > 0).length;
  return {
    key,
    repeated: shareOf(repeated, beacons.length),
    atGate,
    by: [...counts].map(([call, count]) => ({ call, count })).sort((a, b) => b.count - a.count),
    ...(delays.length > 0 ? { medianAfterMs: delays[Math.floor(delays.length / 2)] as number } : {}),
  };
}

/** What to try next: from the places, then from the paths; told only where the numbers can tell them apart. */
export function nextToTry(places: readonly Yield[], paths: readonly Yield[]): string[] {
  const words: string[] = [];
  const [worse, better] = apart(places);
  if (worse && better)
    words.push(
      `Of ${worse.repeated.trials} beacons at ${worse.key} ${counted(worse)}; of ${better.repeated.trials} at ${better.key} ${counted(better)}. Send from ${better.key} where it matters.`,
    );
  const [poor, good] = apart(paths);
  if (poor && good)
    words.push(
      `By ${pathName(good.key)} ${counted(good)} of ${good.repeated.trials}, by ${pathName(poor.key)} ${counted(poor)} of ${poor.repeated.trials}: use the first.`,
    );
  const all = places.length > 0 ? places : paths;
  const total = all.reduce((sum, { repeated }) => sum + repeated.trials, 0);
  const none = all.every(({ repeated }) => repeated.hits === 0);
  if (words.length === 0 && total > 0 && none)
    words.push(
      `None of ${total} beacons came back: get higher or into the open, and look at what your level and your path are.`,
    );
  if (words.length === 0 && total > 0 && !none)
    words.push('The numbers cannot tell places or paths apart yet: send more, from named places.');
  return words;
}

/** The best and the worst of them, if their bounds do not meet. */
function apart(yields: readonly Yield[]): readonly [Yield?, Yield?] {
  const sorted = [...yields].sort((a, b) => a.repeated.share - b.repeated.share);
  const [worst, best] = [sorted[0], sorted.at(-1)];
  return worst && best && worst !== best && worst.repeated.high < best.repeated.low ? [worst, best] : [];
}

const counted = ({ repeated: { hits } }: Yield): string =>
  hits === 0 ? 'none was repeated' : hits === 1 ? 'one was repeated' : `${hits} were repeated`;

const pathName = (path: string): string => (path === '' ? 'no path' : path);

/** Packets an hour with the bounds that hold in 95 of 100 cases (Poisson; Byar's approximation, from memory). */
export function rateOf(
  count: number,
  hours: number,
): { readonly perHour: number; readonly low: number; readonly high: number } {
  if (!(hours > 0)) return { perHour: 0, low: 0, high: Infinity };
  const z = 1.959964;
  const low = count === 0 ? 0 : count * (1 - 1 / (9 * count) - z / (3 * Math.sqrt(count))) ** 3;
  const more = count + 1;
  const high = more * (1 - 1 / (9 * more) + z / (3 * Math.sqrt(more))) ** 3;
  return { perHour: count / hours, low: Math.max(0, low) / hours, high: high / hours };
}
