import { isMalformed } from '../bits/malformed.js';
import { hopsAsked, parsePath } from '../digipeating/alias.js';
import { hopsOfPath, type Lab, type Sender } from './lab.js';
import type { LevelTable } from './level-table.js';
import { airTimeOf, runLab, TRIES, type PacketFate, type Watcher } from './run.js';
import { shareOf, type Share } from './share.js';

/** What a packet is to reach: a gateway where the lab has one, else a digipeater that repeats it. */
export type Goal = 'gateway' | 'digipeater';

/** What one path does here. Delays: from sending to the goal. ways: how it came to the gateway, the commonest first. */
export interface PathResult {
  readonly path: string;
  readonly goal: Goal;
  readonly firstTry: Share;
  readonly withinThree: Share;
  /** By a digipeater at the first try. */
  readonly repeated: Share;
  /** The packet itself counts as one. */
  readonly copies: number;
  readonly channelMs: number;
  readonly delayMs?: { readonly median: number; readonly late: number };
  readonly ways: readonly { readonly way: string; readonly share: number }[];
  /** Share of the time that others held the channel where the sender is, 0–1. */
  readonly heldByOthers: number;
  /** Within three tries, at each place of a track. */
  readonly byPlace: readonly Share[];
}

export interface CompareWish {
  /** As typed, without repetition. */
  readonly paths: readonly string[];
  /** For each path; a multiple of three. */
  readonly packets: number;
  readonly seed: number;
}

const MOST_WAYS = 3;
const LATE = 0.9;

/** The paths side by side, on the same channel with the same luck; yields the share done. */
export function* comparePaths(
  lab: Lab,
  sender: Sender,
  table: LevelTable,
  { paths, packets, seed }: CompareWish,
): Generator<number, PathResult[]> {
  const results: PathResult[] = [];
  for (const [i, path] of paths.entries()) {
    let [heldMs, lastMs] = [0, 0];
    const note: Watcher = (_, atMs, happening) => {
      if (happening.kind !== 'sent') return;
      const { by, frame } = happening;
      lastMs = atMs;
      if (by > 0 && table.isInReach(0, by, 1, 0)) heldMs += airTimeOf(frame, lab);
    };
    const run = runLab(lab, sender, table, { path: hopsOfPath(path), packets, seed }, note);
    let next = run.next();
    for (; !next.done; next = run.next()) yield (i + next.value) / paths.length;
    results.push({
      ...resultOf(path, lab, sender, next.value),
      heldByOthers: Math.min(1, heldMs / Math.max(1, lastMs)),
    });
  }
  return results;
}

function resultOf(
  path: string,
  lab: Lab,
  sender: Sender,
  fates: readonly PacketFate[],
): Omit<PathResult, 'heldByOthers'> {
  const mine = fates.filter(({ source }) => source === 0);
  const goal: Goal = lab.stations.some(({ role }) => role === 'gateway') ? 'gateway' : 'digipeater';
  const reached = (fate: PacketFate): boolean =>
    goal === 'gateway' ? fate.gatewayAtMs !== undefined : fate.repeatedBy > 0;
  const worlds = Array.from({ length: Math.floor(mine.length / TRIES) }, (_, i) =>
    mine.slice(i * TRIES, (i + 1) * TRIES),
  );
  const firsts = worlds.flatMap(([first]) => first ?? []);
  const within = (some: readonly PacketFate[][]): Share =>
    shareOf(some.filter((tries) => tries.some(reached)).length, some.length);
  const delays = mine
    .flatMap(({ gatewayAtMs, sentAtMs }) => (gatewayAtMs === undefined ? [] : [gatewayAtMs - sentAtMs]))
    .sort((a, b) => a - b);
  return {
    path,
    goal,
    firstTry: shareOf(firsts.filter(reached).length, firsts.length),
    withinThree: within(worlds),
    repeated: shareOf(firsts.filter(({ repeatedBy }) => repeatedBy > 0).length, firsts.length),
    copies: mean(mine.map(({ copies }) => copies)),
    channelMs: mean(mine.map(({ channelMs }) => channelMs)),
    ...(delays.length > 0 ? { delayMs: { median: at(delays, 0.5), late: at(delays, LATE) } } : {}),
    ways: waysOf(lab, mine),
    byPlace: sender.places.map((_, place) =>
      within(worlds.filter((_tries, world) => world % sender.places.length === place)),
    ),
  };
}

function waysOf({ stations }: Lab, fates: readonly PacketFate[]): PathResult['ways'] {
  const counts = new Map<string, number>();
  for (const { gateway, gatewayWay = [] } of fates) {
    if (gateway === undefined) continue;
    const way = [...gatewayWay, stations[gateway - 1]?.call].join(' → ');
    counts.set(way, (counts.get(way) ?? 0) + 1);
  }
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_WAYS)
    .map(([way, count]) => ({ way, share: count / fates.length }));
}

const mean = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length;

const at = (sorted: readonly number[], part: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] as number;

/** How many repeats a typed path asks for; of one that cannot be sent, none. */
export function hopsIn(path: string): number {
  const hops = parsePath(path);
  return isMalformed(hops) ? 0 : hopsAsked(hops);
}
