import { wayTo, type Position } from '../geo/position.js';
import type { Facility } from './facility.js';

/** One attempt. hour: of the day, 0–23, where it was made. */
export interface Attempt {
  readonly call: string;
  readonly atMs: number;
  readonly hour: number;
  readonly answered: boolean;
  /** Absent: nobody knows from where. */
  readonly from?: Position;
  /** Another operator who told of it; absent: our own. */
  readonly reporter?: string;
}

/** What is known for the order. now: hour of the day there. chanceOver: over the ground, 0–1, where it is known. */
export interface RankContext {
  readonly here: Position;
  readonly nowMs: number;
  readonly hour: number;
  readonly attempts: readonly Attempt[];
  readonly chanceOver: (facility: Facility) => number | undefined;
}

export interface Ranked {
  readonly facility: Facility;
  /** That it answers now, 0–1. */
  readonly chance: number;
  readonly distanceKm: number | undefined;
  readonly bearingDeg: number | undefined;
  /** Our own. */
  readonly tries: number;
  readonly answers: number;
  /** What other operators told. */
  readonly reports: number;
  readonly reportedAnswers: number;
  readonly lastAnsweredMs: number | undefined;
  readonly bestHour: number | undefined;
  readonly isOpen: boolean | undefined;
  /** Why it stands where it stands, in words. */
  readonly why: string;
}

/** What the ground or the distance says counts like so many tries of our own. */
const PRIOR_TRIES = 2;
/** A try of long ago tells half as much after so many days. */
const HALF_DAYS = 60;
/** Seasons return: one of this time of an earlier year tells a quarter, half of it for each year more and each month off. */
const YEAR_DAYS = 365.25;
const SEASON_DAYS = 30;
/** Of those whose way is free so many answer when they are called for the first time: lists outlive stations (common practice, no source). */
const LISTED_ANSWERS = 0.75;
/** Within so many hours of the day a try tells all; further off half. */
const NEAR_HOURS = 3;
/** At this distance every second is out of reach where nothing is known of the ground (common practice, no source). */
const HALF_KM = 25;
/** Where nobody knows where it is. */
const UNKNOWN_CHANCE = 0.3;
/** From so near, km, a try tells all of what it says of here; from further off half, from beyond the last a quarter. */
const NEAR_KM = 10;
const FAR_KM = 50;
/** What another tells counts half: antenna and patience were his. */
const REPORTED = 0.5;
const HF_MHZ = 30;
/** Declared closed: lists are often wrong about hours. */
const CLOSED = 0.25;
/** From these chances on in words. */
const FREE = 0.7;
const WEAK = 0.3;
const DAY_MS = 86_400_000;

/** In the order to call: the likeliest to answer first; of two alike the nearer. */
export function rank(directory: readonly Facility[], context: RankContext): Ranked[] {
  const attemptsOf = new Map<string, Attempt[]>();
  for (const attempt of context.attempts)
    attemptsOf.set(attempt.call, [...(attemptsOf.get(attempt.call) ?? []), attempt]);
  return directory
    .map((facility) => rankOne(facility, context, attemptsOf.get(facility.call) ?? []))
    .sort((a, b) => b.chance - a.chance || (a.distanceKm ?? Infinity) - (b.distanceKm ?? Infinity));
}

function rankOne(facility: Facility, context: RankContext, attempts: readonly Attempt[]): Ranked {
  const way = facility.position ? wayTo(context.here, facility.position) : undefined;
  const overGround = context.chanceOver(facility);
  const prior =
    (overGround === undefined ? undefined : overGround * LISTED_ANSWERS) ??
    declaredChance(facility) ??
    chanceByDistance(way?.distanceKm);
  let [weight, weighed] = [0, 0];
  for (const attempt of attempts) {
    const one = weightOf(attempt, context);
    weight += one;
    if (attempt.answered) weighed += one;
  }
  const isOpen = openAt(facility.hours, context.hour);
  const reached = (PRIOR_TRIES * prior + weighed) / (PRIOR_TRIES + weight);
  const own = attempts.filter(({ reporter }) => reporter === undefined);
  const answers = own.filter(({ answered }) => answered);
  const lastAnsweredMs = answers.length > 0 ? Math.max(...answers.map(({ atMs }) => atMs)) : undefined;
  const ranked = {
    facility,
    chance: reached * (isOpen === false ? CLOSED : 1),
    distanceKm: way?.distanceKm,
    bearingDeg: way?.bearingDeg,
    tries: own.length,
    answers: answers.length,
    reports: attempts.length - own.length,
    reportedAnswers: attempts.filter(({ answered }) => answered).length - answers.length,
    lastAnsweredMs,
    bestHour: bestHourOf(attempts),
    isOpen,
  };
  return { ...ranked, why: whyOf(ranked, overGround) };
}

/** How much a try says of a call from here at this hour and season, 0–1. */
function weightOf({ atMs, hour, from, reporter }: Attempt, { here, nowMs, hour: now }: RankContext): number {
  const days = Math.max(0, nowMs - atMs) / DAY_MS;
  const years = Math.round(days / YEAR_DAYS);
  const season = 0.5 ** (1 + years + Math.abs(days - years * YEAR_DAYS) / SEASON_DAYS);
  const age = Math.max(0.5 ** (days / HALF_DAYS), season);
  const byHour = hoursApart(hour, now) <= NEAR_HOURS ? 1 : 0.5;
  const km = from === undefined ? 0 : wayTo(here, from).distanceKm;
  const byPlace = km <= NEAR_KM ? 1 : km <= FAR_KM ? 0.5 : 0.25;
  return age * byHour * byPlace * (reporter === undefined ? 1 : REPORTED);
}

/** On HF the list’s own prediction says more than the distance. */
const declaredChance = ({ frequencyMHz, reliabilityPercent }: Facility): number | undefined =>
  frequencyMHz < HF_MHZ && reliabilityPercent !== undefined ? reliabilityPercent / 100 : undefined;

const chanceByDistance = (km: number | undefined): number =>
  km === undefined ? UNKNOWN_CHANCE : 1 / (1 + (km / HALF_KM) ** 2);

const hoursApart = (a: number, b: number): number => Math.min((a - b + 24) % 24, (b - a + 24) % 24);

/** `07-22`, `0700-2200`, `22:00–06:00`; undefined: it says nothing that is read. Open all day: true. */
export function openAt(hours: string, hour: number): boolean | undefined {
  if (/24 ?(?:h|\/ ?7)|always|continuous/i.test(hours)) return true;
  const match = /(\d{1,2})(?::?(\d{2}))?\s*[-–]\s*(\d{1,2})(?::?(\d{2}))?/.exec(hours);
  if (!match) return undefined;
  const [from, to] = [
    Number(match[1]) + Number(match[2] ?? 0) / 60,
    Number(match[3]) + Number(match[4] ?? 0) / 60,
  ];
  if (from > 24 || to > 24) return undefined;
  return from <= to ? hour >= from && hour < to : hour >= from || hour < to;
}

/** The hour at which it answered most often, at least twice. */
function bestHourOf(attempts: readonly Attempt[]): number | undefined {
  const counts = new Map<number, number>();
  for (const { hour, answered } of attempts) if (answered) counts.set(hour, (counts.get(hour) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  return best && best[1] >= 2 ? best[0] : undefined;
}

function whyOf(ranked: Omit<Ranked, 'why'>, overGround: number | undefined): string {
  const closed = ranked.isOpen === false ? ['closed at this hour by its list'] : [];
  return [triesInWords(ranked), groundInWords(ranked, overGround), ...closed].join(', ');
}

function triesInWords({
  tries,
  answers,
  reports,
  reportedAnswers,
}: Pick<Ranked, 'tries' | 'answers' | 'reports' | 'reportedAnswers'>): string {
  if (tries === 0 && reports > 0)
    return `never tried, others reached it in ${outOf(reportedAnswers, reports)}`;
  if (tries === 0) return 'never tried';
  if (answers > 0) return `answered ${outOf(answers, tries)}`;
  return `silent in ${tries} ${tries === 1 ? 'try' : 'tries'}`;
}

const outOf = (some: number, all: number): string => `${some} of ${all} ${all === 1 ? 'try' : 'tries'}`;

function groundInWords(
  { facility, distanceKm }: Omit<Ranked, 'why'>,
  overGround: number | undefined,
): string {
  if (overGround !== undefined) {
    if (overGround >= FREE) return 'in reach over the ground';
    return overGround >= WEAK ? 'at the edge of reach over the ground' : 'behind the ground';
  }
  if (declaredChance(facility) !== undefined) return `${facility.reliabilityPercent} % by its list`;
  return distanceKm === undefined ? 'nobody knows where it is' : 'by its distance alone, which says little';
}
