import { METRES_PER_FOOT, METRES_PER_MILE, MPS_PER_KNOT } from '../units/units.js';
import type { AprsReport, Bearing, Dfs, Phg } from './report.js';
import { digits } from './text.js';

/**
 * 1.0.1, "APRS data extensions": the seven characters after a plain position, if they are one. Like every `take`: what is
 * read goes into the report, what is left of the text comes back.
 */
export function takeExtension(text: string, into: AprsReport): string {
  const course = /^(\d{3}|[ .]{3})\/(\d{3}|[ .]{3})/.exec(text);
  if (course && !(Number(course[1]) > 360)) {
    setCourseAndSpeed(course[1] as string, course[2] as string, into);
    return takeBearing(text.slice(7), into);
  }
  const name = text.slice(0, 3);
  if (name === 'PHG') {
    const phg = /^PHG(\d)([0-~])(\d)([0-8])(?:([1-9A-Z])\/)?/.exec(text);
    if (phg) into.phg = readPhg(phg);
    return phg ? text.slice(phg[0].length) : text;
  }
  if (name === 'RNG') {
    const range = /^RNG(\d{4})/.exec(text);
    if (range) into.rangeM = Number(range[1]) * METRES_PER_MILE;
    return range ? text.slice(7) : text;
  }
  const dfs = name === 'DFS' ? /^DFS(\d)([0-~])(\d)([0-8])/.exec(text) : null;
  if (dfs) into.dfs = readDfs(dfs);
  return dfs ? text.slice(7) : text;
}

/** The extension of a report, empty where it has none: one only fits. */
export function encodeExtension(report: AprsReport): string {
  if (report.phg) return encodePhg(report.phg);
  if (report.dfs) return `DFS${report.dfs.strengthS}${heightGainDirection(report.dfs)}`;
  if (report.speedMps !== undefined)
    return encodeCourseAndSpeed(report) + (report.bearing ? encodeBearing(report.bearing) : '');
  if (report.rangeM !== undefined) return `RNG${digits(report.rangeM / METRES_PER_MILE, 4)}`;
  return '';
}

/** Course 1–360, 360 = north; 000 says that the course is not known. */
function setCourseAndSpeed(course: string, speed: string, into: AprsReport): void {
  const degrees = Number(course);
  if (degrees > 0) into.courseDeg = degrees % 360;
  if (speed >= '0') into.speedMps = Number(speed) * MPS_PER_KNOT;
}

function encodeCourseAndSpeed({ courseDeg, speedMps = 0 }: AprsReport): string {
  const course = courseDeg === undefined ? 0 : Math.round(courseDeg) % 360 || 360;
  return `${digits(course, 3)}/${digits(speedMps / MPS_PER_KNOT, 3)}`;
}

/** PHGphgd: power p² W, height 10·2^h ft, gain g dB, directivity 45°·d, of which 0 is all round and 8 north ("Station power, height, gain, directivity"). */
function readPhg(match: RegExpExecArray): Phg {
  const powerW = Number(match[1]) ** 2;
  const { heightM, gainDb, directivityDeg } = readHeightGainDirection(match);
  const feet = heightM / METRES_PER_FOOT;
  const miles = Math.sqrt(2 * feet * Math.sqrt((powerW / 10) * (10 ** (gainDb / 10) / 2)));
  return {
    powerW,
    heightM,
    gainDb,
    directivityDeg,
    rangeM: miles * METRES_PER_MILE,
    ...(match[5] ? { beaconsPerHour: Number.parseInt(match[5], 36) } : {}),
  };
}

function encodePhg(phg: Phg): string {
  const rate = phg.beaconsPerHour === undefined ? '' : `${phg.beaconsPerHour.toString(36).toUpperCase()}/`;
  return `PHG${digits(Math.sqrt(phg.powerW), 1)}${heightGainDirection(phg)}${rate}`;
}

/** "Omni-DF signal strength": as PHG, but the strength in S units comes first. */
function readDfs(match: RegExpExecArray): Dfs {
  return { strengthS: Number(match[1]), ...readHeightGainDirection(match) };
}

function readHeightGainDirection(match: RegExpExecArray): Omit<Dfs, 'strengthS'> {
  return {
    heightM: 10 * 2 ** ((match[2] as string).charCodeAt(0) - 48) * METRES_PER_FOOT,
    gainDb: Number(match[3]),
    directivityDeg: Number(match[4]) * 45,
  };
}

function heightGainDirection({ heightM, gainDb, directivityDeg }: Omit<Dfs, 'strengthS'>): string {
  const height = Math.max(0, Math.round(Math.log2(heightM / METRES_PER_FOOT / 10)));
  return `${String.fromCharCode(48 + height)}${digits(gainDb, 1)}${digits(directivityDeg / 45, 1)}`;
}

/** NRQ's Q: the bearing's doubt, degrees; 0 = useless ("Bearing and number/range/quality"). */
const WIDTHS_DEG = [undefined, 240, 120, 64, 32, 16, 8, 4, 2, 1] as const;
const BY_HAND = 9;

/** `/BRG/NRQ` after course and speed: N hits of 8, range 2^R miles, quality Q. N = 0 says that the rest means nothing. */
export function takeBearing(text: string, into: AprsReport): string {
  const match = /^\/(\d{3})\/(\d)(\d)(\d)/.exec(text);
  if (!match || Number(match[1]) > 360) return text;
  const [hits, range, quality] = match.slice(2).map(Number) as [number, number, number];
  const widthDeg = WIDTHS_DEG[quality];
  const known: Partial<Bearing> = {
    ...(hits === BY_HAND ? {} : { hits: hits / 8 }),
    rangeM: 2 ** range * METRES_PER_MILE,
    ...(widthDeg === undefined ? {} : { widthDeg }),
  };
  into.bearing = { bearingDeg: Number(match[1]) % 360, ...(hits === 0 ? { hits: 0 } : known) };
  return text.slice(8);
}

export function encodeBearing({ bearingDeg, hits, rangeM, widthDeg }: Bearing): string {
  const n = hits === undefined ? BY_HAND : Math.round(hits * 8);
  const r = rangeM === undefined ? 0 : Math.log2(rangeM / METRES_PER_MILE);
  const q = WIDTHS_DEG.findIndex((width) => width === widthDeg);
  return `/${digits(bearingDeg, 3)}/${digits(n, 1)}${digits(r, 1)}${digits(q, 1)}`;
}
