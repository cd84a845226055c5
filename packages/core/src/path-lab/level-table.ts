import { wayTo } from '../geo/position.js';
import { freeSpaceLossDb, horizonKm } from '../propagation/free-space.js';
import { reachBetween, SPREAD_CLEAR_DB, type RadioEnd } from '../propagation/margin.js';
import type { Ground } from '../propagation/profile.js';
import { dbmOf } from '../propagation/reach.js';
import type { Lab, Sender } from './lab.js';

/** Beyond so many deviations nobody is heard by luck. */
const FAR_DEVIATIONS = 4;
const NEAREST_KM = 0.01;
/** Normal errors beyond so many deviations happen once in two billion. */
const BEST_LUCK = 6;
/** A smooth earth takes more than so much so far beyond the horizon, at 28 MHz already (0.28 dB/km and what the horizon itself takes). */
const BEYOND_KM = 150;
const BEYOND_DB = 55;

/**
 * How far each stands above the threshold of each, dB, on average, and with what spread. Number 0 is the sender, at the place
 * of that number; the lab's stations follow from 1 on.
 */
export class LevelTable {
  private readonly size: number;
  private readonly margins: Float32Array;
  private readonly spreads: Float32Array;

  constructor(stations: number, places: number) {
    this.size = stations;
    // A square for the stations, then two rows for each place of the sender: what they hear of it, what it hears of them.
    this.margins = new Float32Array(stations * stations + 2 * places * stations);
    this.spreads = new Float32Array(this.margins.length);
  }

  set(by: number, from: number, place: number, marginDb: number, spreadDb: number): void {
    const at = this.at(by, from, place);
    this.margins[at] = marginDb;
    this.spreads[at] = spreadDb;
  }

  marginDb(by: number, from: number, place: number): number {
    return this.margins[this.at(by, from, place)] as number;
  }

  /** Whether it is heard there at all, at any of the sender's places; luck in deviations, the best there is where it is left out. */
  isInReach(by: number, from: number, places: number, luck = BEST_LUCK): boolean {
    for (let place = 0; place < (by > 0 && from > 0 ? 1 : places); place++)
      if (this.marginDb(by, from, place) + luck * this.spreadDb(by, from, place) >= 0) return true;
    return false;
  }

  spreadDb(by: number, from: number, place: number): number {
    return this.spreads[this.at(by, from, place)] as number;
  }

  private at(by: number, from: number, place: number): number {
    const { size } = this;
    if (by > 0 && from > 0) return (by - 1) * size + from - 1;
    const row = size * size + 2 * place * size;
    return from === 0 ? row + by - 1 : row + size + from - 1;
  }
}

/** Reckons the table, pair by pair; yields the share done, so that it can be shown and stopped. */
export function* reckonLevels(
  { stations, frequencyMHz }: Lab,
  sender: Sender,
  ground: Ground,
): Generator<number, LevelTable> {
  const table = new LevelTable(stations.length, sender.places.length);
  const total = (stations.length * (stations.length - 1)) / 2 + stations.length * sender.places.length;
  let done = 0;
  const note = (a: number, b: number, place: number, [endA, endB]: readonly [RadioEnd, RadioEnd]): void => {
    const { there, back, spreadDb } = marginsBetween(endA, endB, ground, frequencyMHz);
    table.set(b, a, place, there, spreadDb);
    table.set(a, b, place, back, spreadDb);
    done++;
  };
  for (const [i, a] of stations.entries()) {
    for (let k = i + 1; k < stations.length; k++)
      note(i + 1, k + 1, 0, [a.end, (stations[k] as typeof a).end]);
    for (const [place, position] of sender.places.entries())
      note(0, i + 1, place, [{ ...sender.end, position }, a.end]);
    yield done / total;
  }
  return table;
}

/** Beyond the horizon of both by so much, or where free space alone leaves nothing to hear, the ground is not asked. */
function marginsBetween(
  a: RadioEnd,
  b: RadioEnd,
  ground: Ground,
  frequencyMHz: number,
): { there: number; back: number; spreadDb: number } {
  const km = Math.max(NEAREST_KM, wayTo(a.position, b.position).distanceKm);
  const gain = a.gainDbi + b.gainDbi - freeSpaceLossDb(frequencyMHz, km);
  const free = {
    there: dbmOf(a.powerW) + gain - b.thresholdDbm,
    back: dbmOf(b.powerW) + gain - a.thresholdDbm,
  };
  const aboveSeaM = (end: RadioEnd): number =>
    end.isAboveSea ? end.heightM : end.heightM + ground(end.position);
  if (km > horizonKm(aboveSeaM(a), aboveSeaM(b)) + BEYOND_KM)
    return { there: free.there - BEYOND_DB, back: free.back - BEYOND_DB, spreadDb: 0 };
  if (Math.max(free.there, free.back) < -FAR_DEVIATIONS * SPREAD_CLEAR_DB) return { ...free, spreadDb: 0 };
  const { there, back } = reachBetween(a, b, ground, frequencyMHz);
  return { there: there.marginDb, back: back.marginDb, spreadDb: there.spreadDb };
}

/** The error of one pair in one world, in deviations: the same for the same seed, world and pair, both ways alike. */
export function luckOf(seed: number, world: number, a: number, b: number): number {
  const [low, high] = a < b ? [a, b] : [b, a];
  let mixed = Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(world + 1, 0xc2b2ae35);
  mixed = Math.imul(mixed ^ (mixed >>> 15) ^ (low * 1021 + high), 0x27d4eb2f);
  const first = throwOf(mixed);
  const second = throwOf(Math.imul(mixed ^ 0x165667b1, 0x9e3779b1) + 0x6d2b79f5);
  // Box and Muller 1958.
  return Math.sqrt(-2 * Math.log(1 - first)) * Math.cos(2 * Math.PI * second);
}

/** Finalizer of murmur3, in the public domain. */
function throwOf(value: number): number {
  let mixed = value ^ (value >>> 16);
  mixed = Math.imul(mixed, 0x85ebca6b);
  mixed ^= mixed >>> 13;
  mixed = Math.imul(mixed, 0xc2b2ae35);
  return ((mixed ^ (mixed >>> 16)) >>> 0) / 4294967296;
}
