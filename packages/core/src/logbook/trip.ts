import type { Position } from '../geo/position.js';
import type { Entry } from './entry.js';

/** A stretch of time under one name. toMs absent: it goes on. */
export interface Trip {
  readonly name: string;
  readonly fromMs: number;
  readonly toMs?: number;
  /** Where it goes, as written. */
  readonly place: string;
  /** What to do better next time, as written. */
  readonly better: string;
}

/** A call at somebody on the trip. */
export interface TripCall {
  readonly call: string;
  readonly atMs: number;
  readonly answered: boolean;
  readonly from?: Position;
}

export interface Reached {
  readonly call: string;
  readonly answers: number;
  readonly tries: number;
}

export interface TripSum {
  readonly hours: number;
  /** Those that answered first, by how often. */
  readonly reached: readonly Reached[];
  readonly worked: readonly Entry[];
  readonly failed: readonly Entry[];
  readonly notes: readonly Entry[];
  readonly changes: readonly Entry[];
  readonly counts: Readonly<Record<string, number>>;
}

const HOUR_MS = 3_600_000;

export const isOnTrip = ({ fromMs, toMs = Infinity }: Trip, atMs: number): boolean =>
  atMs >= fromMs && atMs <= toMs;

/** What it came to; nowMs: up to then, where it goes on. */
export function sumOf(
  trip: Trip,
  entries: readonly Entry[],
  calls: readonly TripCall[],
  nowMs: number,
): TripSum {
  const own = entries.filter(({ atMs }) => isOnTrip(trip, atMs)).sort((a, b) => a.atMs - b.atMs);
  const reached = new Map<string, Reached>();
  for (const { call, atMs, answered } of calls) {
    if (!isOnTrip(trip, atMs)) continue;
    const known = reached.get(call) ?? { call, answers: 0, tries: 0 };
    reached.set(call, { call, answers: known.answers + (answered ? 1 : 0), tries: known.tries + 1 });
  }
  const counts: Record<string, number> = {};
  for (const { kind } of own) counts[kind] = (counts[kind] ?? 0) + 1;
  return {
    hours: Math.max(0, (Math.min(trip.toMs ?? nowMs, nowMs) - trip.fromMs) / HOUR_MS),
    reached: [...reached.values()].sort(
      (a, b) => b.answers - a.answers || a.tries - b.tries || (a.call < b.call ? -1 : 1),
    ),
    worked: own.filter(({ kind, ok }) => ok === true && kind !== 'change'),
    failed: own.filter(({ ok }) => ok === false),
    notes: own.filter(({ kind }) => kind === 'note'),
    changes: own.filter(({ kind }) => kind === 'change'),
    counts,
  };
}

const timeOf = (ms: number): string => new Date(ms).toISOString().slice(0, 16).replace('T', ' ');

/** A text of others stands in a line of its own, and is no heading, list or table of ours. */
const plain = (text: string): string =>
  text
    .replace(/\s+/g, ' ')
    .replace(/([\\`*_[\]<>|#])/g, '\\$1')
    .trim();

/** The trip as Markdown, times in UTC. */
export function tripMarkdown(trip: Trip, sum: TripSum): string {
  const { name, fromMs, toMs, place, better } = trip;
  const lines = (title: string, entries: readonly Entry[]): string[] =>
    entries.length === 0
      ? []
      : [
          `## ${title}`,
          '',
          ...entries.map(({ atMs, what, words }) =>
            `- ${timeOf(atMs)} **${plain(what)}** ${plain(words)}`.trimEnd(),
          ),
          '',
        ];
  return [
    `# ${plain(name)}`,
    '',
    `${timeOf(fromMs)} to ${toMs === undefined ? 'now' : timeOf(toMs)} UTC${place === '' ? '' : `, ${plain(place)}`}`,
    '',
    ...(sum.reached.length === 0
      ? []
      : [
          '## Gateways and stations called',
          '',
          '| call | answered | of |',
          '| --- | --- | --- |',
          ...sum.reached.map(({ call, answers, tries }) => `| ${plain(call)} | ${answers} | ${tries} |`),
          '',
        ]),
    ...lines('What worked', sum.worked),
    ...lines('What failed', sum.failed),
    ...lines('What was changed', sum.changes),
    ...lines('Notes', sum.notes),
    ...(better === '' ? [] : ['## To do better', '', plain(better), '']),
  ].join('\n');
}
