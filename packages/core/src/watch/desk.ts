import { start, stop, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';
import { judged, see, UNSEEN, type Seen, type Sighting } from './sighting.js';
import { nextLookMs, standingOf, type Need, type Standing } from './standing.js';
import type { Watched } from './watched.js';

/**
 * The desk of an event. An alarm stands for one need of one who is looked after:
 *
 *   (none) --the need holds--> raised --acknowledged--> answered
 *   raised or answered --the need holds no more--> ended, and gone from the desk
 *
 * A word to the desk holds until somebody has acknowledged it. A need that comes back raises a new alarm.
 * Times in ms since 1970 UTC, since people read them and finishes are due by them.
 */
export interface Desk {
  /** Whoever is not heard at all is missed from here on. */
  readonly begunMs: number;
  /** What was sent before says nothing about this watch. */
  readonly countsFromMs: number;
  readonly watched: ReadonlyMap<string, Watched>;
  readonly sightings: ReadonlyMap<string, Sighting>;
  /** What stands now, by `call need`. */
  readonly alarms: ReadonlyMap<string, Alarm>;
}

export interface Alarm {
  /** Of this alarm for ever. */
  readonly id: string;
  readonly call: string;
  readonly need: Need;
  readonly raisedAtMs: number;
  /** What they said, with `called`. */
  readonly words?: string;
  readonly acknowledged?: { readonly atMs: number; readonly note: string };
}

export type DeskEvent =
  /** The list is another one; who stays on it keeps what was heard of them. */
  | { readonly kind: 'list'; readonly watched: readonly Watched[] }
  /** The watch begins, now: of what was heard before, only what is not older than this counts. */
  | { readonly kind: 'begin'; readonly countsFromMs: number }
  | { readonly kind: 'seen'; readonly call: string; readonly seen: Seen }
  /** What the journal has of them, oldest first: judged as it is in the end, not as it was in between. */
  | { readonly kind: 'recalled'; readonly packets: readonly { readonly call: string; readonly seen: Seen }[] }
  | { readonly kind: 'acknowledge'; readonly id: string; readonly note: string }
  | TimerEvent;

export type DeskEffect =
  | TimerEffect<'look'>
  | { readonly kind: 'raised'; readonly alarm: Alarm }
  | { readonly kind: 'acknowledged'; readonly alarm: Alarm }
  | { readonly kind: 'ended'; readonly alarm: Alarm };

export interface DeskMoment {
  /** ms since 1970 UTC. */
  readonly nowMs: number;
}

type Outcome = Stepped<Desk, DeskEffect>;

/** A timer is no longer than this: a clock that was put right in between is noticed. */
const LOOK_AT_LEAST_EVERY_MS = 60_000;

export const emptyDesk = (begunMs: number): Desk => ({
  begunMs,
  countsFromMs: begunMs,
  watched: new Map(),
  sightings: new Map(),
  alarms: new Map(),
});

export function deskStep(desk: Desk, event: DeskEvent, moment: DeskMoment): Outcome {
  const next = taken(desk, event, moment);
  return next === undefined ? [desk, []] : looked(next.desk, moment, next.effects);
}

/** How everybody stands now, by call. */
export function standings(desk: Desk, nowMs: number): ReadonlyMap<string, Standing> {
  const of = (watched: Watched): [string, Standing] => [watched.call, standing(desk, watched, nowMs)];
  return new Map([...desk.watched.values()].map(of));
}

function standing(desk: Desk, watched: Watched, nowMs: number): Standing {
  const sighting = desk.sightings.get(watched.call) ?? UNSEEN;
  const wasOff = desk.alarms.has(keyOf(watched.call, 'off'));
  return standingOf(watched, sighting, { nowMs, begunMs: desk.begunMs, wasOff });
}

/** undefined: it is nothing to this desk. */
function taken(
  desk: Desk,
  event: DeskEvent,
  { nowMs }: DeskMoment,
): { desk: Desk; effects: readonly DeskEffect[] } | undefined {
  switch (event.kind) {
    case 'list':
      return { desk: listed(desk, event.watched), effects: [] };
    case 'begin':
      return {
        desk: { ...desk, begunMs: nowMs, countsFromMs: event.countsFromMs, sightings: new Map() },
        effects: [],
      };
    case 'seen': {
      const after = seenBy(desk, event.call, event.seen);
      return after === desk ? undefined : { desk: after, effects: [] };
    }
    case 'recalled':
      return {
        desk: event.packets.reduce((known, { call, seen }) => seenBy(known, call, seen), desk),
        effects: [],
      };
    case 'acknowledge':
      return acknowledged(desk, event.id, event.note, nowMs);
    case 'timer':
      return { desk, effects: [] };
  }
}

/** The same desk where the packet is nothing to it. */
function seenBy(desk: Desk, call: string, seen: Seen): Desk {
  const watched = desk.watched.get(call);
  if (!watched || seen.atMs < desk.countsFromMs) return desk;
  return withSighting(desk, call, see(desk.sightings.get(call) ?? UNSEEN, watched, seen));
}

function listed(desk: Desk, list: readonly Watched[]): Desk {
  const watched = new Map(list.map((one) => [one.call, one]));
  const sightings = new Map<string, Sighting>();
  for (const one of list) {
    const known = desk.sightings.get(one.call);
    if (!known) continue;
    const { position, positionAtMs: atMs } = known;
    // Another leg or finish is judged by the place that is known.
    const { offM: _, ...rest } = known;
    sightings.set(
      one.call,
      position && atMs !== undefined ? { ...rest, ...judged(known, one, { atMs, position }) } : rest,
    );
  }
  return { ...desk, watched, sightings };
}

function acknowledged(
  desk: Desk,
  id: string,
  note: string,
  nowMs: number,
): { desk: Desk; effects: readonly DeskEffect[] } | undefined {
  const alarm = [...desk.alarms.values()].find((one) => one.id === id);
  if (!alarm || alarm.acknowledged) return undefined;
  const answered: Alarm = { ...alarm, acknowledged: { atMs: nowMs, note } };
  const kept = { ...desk, alarms: new Map(desk.alarms).set(keyOf(alarm.call, alarm.need), answered) };
  return { desk: heldNoMore(kept, alarm), effects: [{ kind: 'acknowledged', alarm: answered }] };
}

/** A word has been taken note of. */
function heldNoMore(desk: Desk, { call, need }: Alarm): Desk {
  const sighting = desk.sightings.get(call);
  if (!sighting || need !== 'called') return desk;
  const { called: _, ...rest } = sighting;
  return withSighting(desk, call, rest);
}

const withSighting = (desk: Desk, call: string, sighting: Sighting): Desk => ({
  ...desk,
  sightings: new Map(desk.sightings).set(call, sighting),
});

/** What holds now has its alarm, what holds no more has none, and the next look is set. */
function looked(desk: Desk, { nowMs }: DeskMoment, before: readonly DeskEffect[]): Outcome {
  const alarms = new Map<string, Alarm>();
  const effects: DeskEffect[] = [...before];
  let nextMs = Infinity;
  for (const watched of desk.watched.values()) {
    const sighting = desk.sightings.get(watched.call) ?? UNSEEN;
    for (const need of standing(desk, watched, nowMs).needs) {
      const key = keyOf(watched.call, need);
      const known = desk.alarms.get(key);
      const alarm = { ...(known ?? raise(watched.call, need, nowMs)), ...wordsOf(need, sighting) };
      if (!known) effects.push({ kind: 'raised', alarm });
      alarms.set(key, alarm);
    }
    nextMs = Math.min(nextMs, nextLookMs(watched, sighting, { nowMs, begunMs: desk.begunMs }));
  }
  for (const [key, alarm] of desk.alarms) if (!alarms.has(key)) effects.push({ kind: 'ended', alarm });
  effects.push(
    desk.watched.size === 0 ? stop('look') : start('look', Math.min(LOOK_AT_LEAST_EVERY_MS, nextMs - nowMs)),
  );
  return [{ ...desk, alarms }, effects];
}

const raise = (call: string, need: Need, nowMs: number): Alarm => ({
  id: `${call} ${need} ${nowMs}`,
  call,
  need,
  raisedAtMs: nowMs,
});

/** The last word; earlier ones stand in the log. */
const wordsOf = (need: Need, { called }: Sighting): Pick<Alarm, 'words'> =>
  need === 'called' && called ? { words: called.text } : {};

const keyOf = (call: string, need: Need): string => `${call} ${need}`;
