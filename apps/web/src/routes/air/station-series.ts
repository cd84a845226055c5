import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { Telemetry, Weather } from '@mistpeak/core/aprs/report';
import { sequenceGaps, type SequenceGaps } from '@mistpeak/core/listening/sequence-gaps';
import {
  channelValues,
  define,
  NO_DEFINITIONS,
  type TelemetryDefinitions,
} from '@mistpeak/core/listening/telemetry-series';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { readRecord } from '../../live/views';

/** One curve: points as [ms since 1970, value], oldest first. */
export interface Curve {
  readonly name: string;
  readonly unit: string;
  readonly points: readonly (readonly [atMs: number, value: number])[];
}

export interface StationSeries {
  readonly weather: readonly { readonly atMs: number; readonly weather: Weather }[];
  readonly telemetry: readonly Curve[];
  readonly title: string;
  readonly altitude: Curve | undefined;
  /** Ascent of the last stretch, m/s; negative: it comes down. */
  readonly ascentMps: number | undefined;
  readonly lost: SequenceGaps | undefined;
  /** Frames heard on radio by the hour of the day, UTC. */
  readonly byHour: readonly number[];
  /** The same by the day, UTC, from the first on which it was heard to the last. */
  readonly byDay: readonly { readonly day: string; readonly count: number }[];
  /** Paths in the order in which they were used: each where it changed. */
  readonly paths: readonly { readonly atMs: number; readonly path: string }[];
  /** Who relayed it, the most frequent first. */
  readonly relays: readonly { readonly call: string; readonly count: number }[];
}

const ASCENT_MS = 10 * 60_000;
const DAY_MS = 86_400_000;
const MOST_DAYS = 366;
/** `T#nnn` counts to 999 (APRS 1.0.1, "Telemetry data"), in base 91 to 8280 (from memory: a published addition of 2012). */
const TURN = 1000;
const BASE_91_TURN = 8281;

/** What a station's frames tell over time. frames: of this station, oldest first; all: also others, of which some define its channels. */
export function stationSeries(
  frames: readonly FrameRecord[],
  definitionsFrom: readonly FrameRecord[] = frames,
): StationSeries {
  const definitions = definitionsOf(definitionsFrom);
  const weather: { atMs: number; weather: Weather }[] = [];
  const altitudes: [number, number][] = [];
  const channels = new Map<string, { unit: string; points: [number, number][] }>();
  const numbers: number[] = [];
  const byHour = Array.from({ length: 24 }, () => 0);
  const days = new Map<number, number>();
  const paths: { atMs: number; path: string }[] = [];
  const relays = new Map<string, number>();
  let lastTelemetry: Telemetry | undefined;
  for (const frame of frames) {
    const { view } = readRecord(frame);
    if (isMalformed(view) || frame.direction === 'sent') continue;
    if (frame.line === undefined) {
      const hour = new Date(frame.atMs).getUTCHours();
      byHour[hour] = (byHour[hour] ?? 0) + 1;
      const day = Math.floor(frame.atMs / DAY_MS);
      days.set(day, (days.get(day) ?? 0) + 1);
      for (const call of view.path.repeaters) relays.set(call, (relays.get(call) ?? 0) + 1);
    }
    const path = view.frame.path
      .filter(({ used }) => !used)
      .map(({ call }) => call)
      .join(',');
    // What it asked for is seen whole only where nobody has repeated it.
    if (view.path.hops === 0 && paths.at(-1)?.path !== path) paths.push({ atMs: frame.atMs, path });
    const { report } = view;
    if (!report) continue;
    if (report.weather) weather.push({ atMs: frame.atMs, weather: report.weather });
    if (report.altitudeM !== undefined && altitudes.at(-1)?.[1] !== report.altitudeM)
      altitudes.push([frame.atMs, report.altitudeM]);
    if (report.telemetry) {
      lastTelemetry = report.telemetry;
      if (typeof report.telemetry.sequence === 'number') numbers.push(report.telemetry.sequence);
      for (const { name, unit, value } of channelValues(report.telemetry, definitions)) {
        const known = channels.get(name) ?? { unit, points: [] };
        channels.set(name, known);
        if (known.points.at(-1)?.[0] !== frame.atMs) known.points.push([frame.atMs, value]);
      }
    }
  }
  const isBase91 = lastTelemetry !== undefined && numbers.some((number) => number >= TURN);
  return {
    weather,
    telemetry: [...channels].map(([name, { unit, points }]) => ({ name, unit, points })),
    title: definitions.title,
    altitude: altitudes.length > 1 ? { name: 'Altitude', unit: 'm', points: altitudes } : undefined,
    ascentMps: ascentOf(altitudes),
    lost: numbers.length > 1 ? sequenceGaps(numbers, isBase91 ? BASE_91_TURN : TURN) : undefined,
    byHour,
    byDay: everyDay(days),
    paths,
    relays: [...relays].map(([call, count]) => ({ call, count })).sort((a, b) => b.count - a.count),
  };
}

/** Days without a frame stand among the others. */
function everyDay(days: ReadonlyMap<number, number>): StationSeries['byDay'] {
  if (days.size === 0) return [];
  const [first, last] = [Math.min(...days.keys()), Math.max(...days.keys())];
  // Not more than a year of bars, of whatever clock a record comes from.
  const from = Math.max(first, last - MOST_DAYS + 1);
  return Array.from({ length: last - from + 1 }, (_, i) => ({
    day: new Date((from + i) * DAY_MS).toISOString().slice(0, 10),
    count: days.get(from + i) ?? 0,
  }));
}

/** What the station told of its channels in messages to itself. */
function definitionsOf(frames: readonly FrameRecord[]): TelemetryDefinitions {
  let known = NO_DEFINITIONS;
  for (const frame of frames) {
    const { view } = readRecord(frame);
    const told = isMalformed(view) ? undefined : view.report?.telemetryDefinition;
    if (told) known = define(known, told);
  }
  return known;
}

function ascentOf(altitudes: readonly (readonly [number, number])[]): number | undefined {
  const last = altitudes.at(-1);
  const first = altitudes.find(([atMs]) => last !== undefined && last[0] - atMs <= ASCENT_MS);
  if (!first || !last || last[0] === first[0]) return undefined;
  return ((last[1] - first[1]) * 1000) / (last[0] - first[0]);
}
