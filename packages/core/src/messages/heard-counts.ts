const HOUR_MS = 3_600_000;
/** As many as an answer to `?APRSH` tells of (1.0.1, "Station capabilities, queries and responses"). */
const HOURS = 8;
/** Who was heard direct within this time is told of (common practice, no source). */
const DIRECT_MS = HOUR_MS;
const MOST = 5000;

interface Counted {
  /** By hour since 1970, or since whatever the clock counts from. */
  readonly hours: Map<number, number>;
  directAtMs: number;
}

/** How often each station was heard in each of the last hours, and who was heard direct: what is told to those who ask. */
export class HeardCounts {
  private readonly stations = new Map<string, Counted>();

  note(call: string, isDirect: boolean, atMs: number): void {
    const one = this.stations.get(call) ?? { hours: new Map<number, number>(), directAtMs: -Infinity };
    const hour = Math.floor(atMs / HOUR_MS);
    one.hours.set(hour, (one.hours.get(hour) ?? 0) + 1);
    for (const past of one.hours.keys()) if (past <= hour - HOURS) one.hours.delete(past);
    if (isDirect) one.directAtMs = atMs;
    // Put at the end, so that the longest unheard are forgotten first.
    this.stations.delete(call);
    this.stations.set(call, one);
    if (this.stations.size > MOST) this.stations.delete(this.stations.keys().next().value as string);
  }

  /** The latest first. */
  direct(atMs: number): string[] {
    return [...this.stations]
      .filter(([, { directAtMs }]) => atMs - directAtMs < DIRECT_MS)
      .sort(([, a], [, b]) => b.directAtMs - a.directAtMs)
      .map(([call]) => call);
  }

  /** The present hour first; undefined where it was not heard in any of them. */
  counts(call: string, atMs: number): number[] | undefined {
    const one = this.stations.get(call);
    const hour = Math.floor(atMs / HOUR_MS);
    const counts = Array.from({ length: HOURS }, (_, i) => one?.hours.get(hour - i) ?? 0);
    return counts.some((count) => count > 0) ? counts : undefined;
  }
}
