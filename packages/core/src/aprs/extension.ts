import { METRES_PER_FOOT, METRES_PER_MILE, MPS_PER_KNOT } from '../units/units.js';
import type { AprsReport, Phg } from './report.js';

/** 1.0.1, "APRS data extensions": the seven characters after a plain position, if they are one. */
export function readExtension(text: string): { facts: Partial<AprsReport>; rest: string } {
  const seven = text.slice(0, 7);
  const rest = text.slice(7);
  const course = /^(\d{3})\/(\d{3})$/.exec(seven);
  if (course && Number(course[1]) <= 360)
    return { facts: courseAndSpeed(Number(course[1]), Number(course[2])), rest };
  const phg = /^PHG(\d)([0-~])(\d)([0-8])$/.exec(seven);
  if (phg) return { facts: { phg: readPhg(phg) }, rest };
  const range = /^RNG(\d{4})$/.exec(seven);
  if (range) return { facts: { rangeM: Number(range[1]) * METRES_PER_MILE }, rest };
  return { facts: {}, rest: text };
}

/** Course 1–360, 360 = north; 000 says that the course is not known. */
function courseAndSpeed(course: number, knots: number): Partial<AprsReport> {
  return { ...(course === 0 ? {} : { courseDeg: course % 360 }), speedMps: knots * MPS_PER_KNOT };
}

/** PHGphgd: power p² W, height 10·2^h ft, gain g dB, directivity 45°·d (1.0.1, "Station power, height, gain, directivity"). */
function readPhg(match: RegExpExecArray): Phg {
  const powerW = Number(match[1]) ** 2;
  const feet = 10 * 2 ** ((match[2] as string).charCodeAt(0) - 48);
  const gainDb = Number(match[3]);
  const miles = Math.sqrt(2 * feet * Math.sqrt((powerW / 10) * (10 ** (gainDb / 10) / 2)));
  return {
    powerW,
    heightM: feet * METRES_PER_FOOT,
    gainDb,
    directivityDeg: (Number(match[4]) * 45) % 360,
    rangeM: miles * METRES_PER_MILE,
  };
}

/** `/A=001234` anywhere in a comment: altitude in feet above sea level. */
export function readAltitude(comment: string): { facts: Partial<AprsReport>; rest: string } {
  const match = /\/A=(-\d{5}|\d{6})/.exec(comment);
  if (!match) return { facts: {}, rest: comment };
  const rest = comment.slice(0, match.index) + comment.slice(match.index + match[0].length);
  return { facts: { altitudeM: Number(match[1]) * METRES_PER_FOOT }, rest };
}
