import type { Ax25Frame } from '../ax25/frame.js';
import { duplicateKey, USUAL_DUPLICATE_WINDOW_MS } from '../digipeating/digipeater.js';
import { wayOf } from '../digipeating/way.js';
import { aliasesServed, askedPath } from './asked-path.js';

/** Who repeats: how often, which aliases it served, whom it heard itself, how often it was heard here without another hop behind. */
export interface HeardRepeater {
  readonly call: string;
  readonly count: number;
  readonly lastAtMs: number;
  readonly heardHere: number;
  readonly aliases: Readonly<Record<string, number>>;
  readonly from: Readonly<Record<string, number>>;
}

/** Who sends: packets without their copies, the path it asks for most, its mean info length. */
export interface HeardSource {
  readonly call: string;
  readonly packets: number;
  readonly direct: number;
  readonly lastAtMs: number;
  readonly path: string;
  readonly octets: number;
}

export interface HeardNetwork {
  readonly fromMs: number;
  readonly toMs: number;
  readonly repeaters: readonly HeardRepeater[];
  readonly sources: readonly HeardSource[];
}

interface Repeater {
  count: number;
  lastAtMs: number;
  heardHere: number;
  readonly aliases: Map<string, number>;
  readonly from: Map<string, number>;
}
interface Source {
  packets: number;
  direct: number;
  lastAtMs: number;
  octets: number;
  readonly paths: Map<string, number>;
}

/** Reads the journal frame by frame, oldest first, and tells who repeats whom and who sends how much. */
export class NetworkListener {
  private readonly repeaters = new Map<string, Repeater>();
  private readonly sources = new Map<string, Source>();
  private readonly lately = new Map<string, number>();
  private fromMs = Infinity;
  private toMs = -Infinity;

  hear(frame: Ax25Frame, atMs: number): void {
    this.fromMs = Math.min(this.fromMs, atMs);
    this.toMs = Math.max(this.toMs, atMs);
    const { repeaters, hops } = wayOf(frame.path);
    this.hearRepeaters(frame, repeaters, atMs);
    const source = entry(this.sources, frame.source, (): Source => ({
      packets: 0,
      direct: 0,
      lastAtMs: atMs,
      octets: 0,
      paths: new Map(),
    }));
    if (hops === 0) source.direct++;
    source.lastAtMs = atMs;
    if (this.isCopy(duplicateKey(frame), atMs)) return;
    source.packets++;
    source.octets += frame.info.length;
    count(source.paths, askedPath(frame.path));
  }

  network(): HeardNetwork {
    const isEmpty = this.fromMs > this.toMs;
    return {
      fromMs: isEmpty ? 0 : this.fromMs,
      toMs: isEmpty ? 0 : this.toMs,
      repeaters: [...this.repeaters]
        .map(([call, { count: times, lastAtMs, heardHere, aliases, from }]) => ({
          call,
          count: times,
          lastAtMs,
          heardHere,
          aliases: Object.fromEntries(aliases),
          from: Object.fromEntries(from),
        }))
        .sort((a, b) => b.count - a.count),
      sources: [...this.sources]
        .map(([call, { packets, direct, lastAtMs, octets, paths }]) => ({
          call,
          packets,
          direct,
          lastAtMs,
          octets: Math.round(octets / Math.max(1, packets)),
          path: [...paths].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '',
        }))
        .sort((a, b) => b.packets - a.packets),
    };
  }

  private hearRepeaters({ source, path }: Ax25Frame, repeaters: readonly string[], atMs: number): void {
    let from = source;
    for (const [i, call] of repeaters.entries()) {
      const repeater = entry(this.repeaters, call, (): Repeater => ({
        count: 0,
        lastAtMs: atMs,
        heardHere: 0,
        aliases: new Map(),
        from: new Map(),
      }));
      repeater.count++;
      repeater.lastAtMs = atMs;
      if (i === repeaters.length - 1) repeater.heardHere++;
      count(repeater.from, from);
      from = call;
    }
    for (const { call, alias } of aliasesServed(path))
      count((this.repeaters.get(call) as Repeater).aliases, alias);
  }

  private isCopy(key: string, atMs: number): boolean {
    const last = this.lately.get(key);
    for (const [other, time] of this.lately) {
      if (atMs - time < USUAL_DUPLICATE_WINDOW_MS) break;
      this.lately.delete(other);
    }
    if (last !== undefined && atMs - last < USUAL_DUPLICATE_WINDOW_MS) return true;
    this.lately.delete(key);
    this.lately.set(key, atMs);
    return false;
  }
}

function entry<T>(all: Map<string, T>, key: string, make: () => T): T {
  const known = all.get(key) ?? make();
  all.set(key, known);
  return known;
}

function count(all: Map<string, number>, key: string): void {
  all.set(key, (all.get(key) ?? 0) + 1);
}
