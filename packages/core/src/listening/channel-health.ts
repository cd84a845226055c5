import { callWithoutSsid } from '../callsign/callsign.js';
import { listMisuse } from '../digipeating/misuse.js';
import { wayOf } from '../digipeating/way.js';
import { NetworkListener, type HeardRepeater } from '../path-lab/heard-network.js';
import { foldCopies } from './copies.js';
import { wayWords, type HeardPacket } from './heard-packet.js';

/** A packet of the radio side with what it held: from keying to the end of its tail, ms. */
export interface AiredPacket extends HeardPacket {
  readonly airMs: number;
}

/** What somebody, or a way, costs the channel: time on the air with all copies that were heard here. */
export interface Cost {
  readonly name: string;
  readonly airMs: number;
  readonly packets: number;
  readonly frames: number;
}

export interface MisuseFound {
  readonly call: string;
  readonly text: string;
  readonly rule: string;
  readonly count: number;
  readonly lastAtMs: number;
}

export interface ChannelHealth {
  readonly fromMs: number;
  readonly untilMs: number;
  /** Share of each minute that was held, 0–1, oldest first. */
  readonly minutes: readonly number[];
  /** The dearest first. */
  readonly senders: readonly Cost[];
  readonly ways: readonly Cost[];
  readonly misuse: readonly MisuseFound[];
  readonly digipeaters: readonly HeardRepeater[];
  /** Packets of stations that are heard direct, of which only a repeater's copy came while somebody else was on the air. */
  readonly runOver: readonly { readonly call: string; readonly count: number; readonly of: number }[];
}

const MINUTE_MS = 60_000;
/** Who is heard direct this often, of at least so many packets, is expected to be. */
const DIRECT_SHARE = 0.6;
const LEAST_PACKETS = 4;
/** A repeater begins at once, or waits for its turn so long (common practice, no source). */
const REPEATED_WITHIN_MS = 3000;

/** How the channel fared between two times (ms since 1970), from what was heard on radio; packets: oldest first. */
export function channelHealth(
  packets: readonly AiredPacket[],
  fromMs: number,
  untilMs: number,
): ChannelHealth {
  const within = packets.filter(({ atMs, byInternet }) => !byInternet && atMs > fromMs && atMs <= untilMs);
  const listener = new NetworkListener();
  for (const { frame, atMs, isSent } of within) if (!isSent) listener.hear(frame, atMs);
  const folded = foldCopies(within);
  return {
    fromMs,
    untilMs,
    minutes: minuteShares(within, fromMs, untilMs),
    senders: costs(folded.map(({ first, copies }) => ({ name: first.frame.source, copies }))),
    ways: costs(within.map((packet) => ({ name: wayWords(packet), copies: [packet] }))),
    misuse: misuseIn(folded.map(({ first }) => first)),
    digipeaters: listener.network().repeaters,
    runOver: runOver(within),
  };
}

function minuteShares(packets: readonly AiredPacket[], fromMs: number, untilMs: number): number[] {
  const held = Array.from({ length: Math.ceil((untilMs - fromMs) / MINUTE_MS) }, () => 0);
  for (const { atMs, airMs } of packets)
    // A frame that crosses the minute counts for both.
    for (let at = Math.max(fromMs, atMs - airMs); at < atMs;) {
      const minute = Math.floor((at - fromMs) / MINUTE_MS);
      const end = Math.min(atMs, fromMs + (minute + 1) * MINUTE_MS);
      held[minute] = (held[minute] ?? 0) + end - at;
      at = end;
    }
  return held.map((ms) => Math.min(1, ms / MINUTE_MS));
}

function costs(parts: readonly { name: string; copies: readonly AiredPacket[] }[]): Cost[] {
  const sums = new Map<string, { airMs: number; packets: number; frames: number }>();
  for (const { name, copies } of parts) {
    const sum = sums.get(name) ?? { airMs: 0, packets: 0, frames: 0 };
    sum.packets++;
    sum.frames += copies.length;
    sum.airMs += copies.reduce((ms, { airMs }) => ms + airMs, 0);
    sums.set(name, sum);
  }
  return [...sums]
    .map(([name, sum]) => ({ name, ...sum }))
    .sort((a, b) => b.airMs - a.airMs || (a.name < b.name ? -1 : 1));
}

/** Told once for each station and rule, the most frequent first. */
function misuseIn(packets: readonly HeardPacket[]): MisuseFound[] {
  const found = new Map<
    string,
    { call: string; text: string; rule: string; count: number; lastAtMs: number }
  >();
  for (const { frame, atMs } of packets)
    for (const { text, rule } of listMisuse(frame.path)) {
      const key = `${frame.source} ${rule}`;
      const known = found.get(key);
      found.set(key, {
        call: frame.source,
        text,
        rule,
        count: (known?.count ?? 0) + 1,
        lastAtMs: Math.max(known?.lastAtMs ?? 0, atMs),
      });
    }
  return [...found.values()].sort((a, b) => b.count - a.count || (a.call < b.call ? -1 : 1));
}

function runOver(packets: readonly AiredPacket[]): { call: string; count: number; of: number }[] {
  const bySource = new Map<string, { direct: number; all: number; suspected: number }>();
  const heard = packets.filter(({ isSent }) => !isSent);
  for (const { copies } of foldCopies(heard)) {
    const [first] = copies;
    if (!first || first.frame.control.kind !== 'UI') continue;
    const sum = bySource.get(first.frame.source) ?? { direct: 0, all: 0, suspected: 0 };
    sum.all++;
    if (copies.some(({ frame }) => wayOf(frame.path).hops === 0)) sum.direct++;
    else if (wasBusyBefore(first, packets)) sum.suspected++;
    bySource.set(first.frame.source, sum);
  }
  return [...bySource]
    .filter(
      ([, { direct, all, suspected }]) =>
        suspected > 0 && all >= LEAST_PACKETS && direct / all >= DIRECT_SHARE,
    )
    .map(([call, { suspected, all }]) => ({ call, count: suspected, of: all }))
    .sort((a, b) => b.count - a.count || (a.call < b.call ? -1 : 1));
}

/** Whether somebody else was on the air when the original of this copy was, which ended shortly before the copy began. */
function wasBusyBefore(copy: AiredPacket, packets: readonly AiredPacket[]): boolean {
  const latestEnd = copy.atMs - copy.airMs;
  const earliestBegin = latestEnd - REPEATED_WITHIN_MS - copy.airMs;
  const own = callWithoutSsid(copy.frame.source);
  return packets.some(
    ({ atMs, airMs, frame }) =>
      callWithoutSsid(frame.source) !== own && atMs > earliestBegin && atMs - airMs < latestEnd,
  );
}
