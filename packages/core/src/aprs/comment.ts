import { METRES_PER_FOOT } from '../units/units.js';
import { encodeDao, takeDao } from './dao.js';
import { encodeFrequency, takeFrequency } from './frequency.js';
import type { AprsReport } from './report.js';
import { encodeCommentTelemetry, takeCommentTelemetry } from './telemetry.js';
import { digits, joinWords } from './text.js';

/** `/A=001234` anywhere in a comment: altitude in feet above sea level (1.0.1, "Altitude in comment text"). */
function takeAltitude(comment: string, into: AprsReport): string {
  const match = /\/A=(-\d{5}|\d{6})/.exec(comment);
  if (!match) return comment;
  into.altitudeM = Number(match[1]) * METRES_PER_FOOT;
  return joinWords(comment.slice(0, match.index), comment.slice(match.index + match[0].length));
}

function encodeAltitude(altitudeM: number): string {
  const feet = Math.round(altitudeM / METRES_PER_FOOT);
  return feet < 0 ? `/A=-${digits(-feet, 5)}` : `/A=${digits(feet, 6)}`;
}

/** Signs without which nothing hides: most comments are only words. */
const MAY_HIDE = /[|!]|\/A=|MHz/;

/** The facts that hide in a comment are taken out of it: telemetry, DAO, altitude, frequency; the rest is left clean. */
export function readComment(text: string, into: AprsReport): void {
  let rest = text;
  if (into.object || MAY_HIDE.test(text)) {
    rest = takeCommentTelemetry(rest, into);
    rest = takeDao(rest, into);
    rest = takeAltitude(rest, into);
    rest = takeFrequency(rest, into);
  }
  const comment = rest.trim();
  if (comment !== '') into.comment = comment;
}

/** The comment of a report with what hides in it. withoutAltitude: it was said elsewhere already. */
export function encodeComment(report: AprsReport, { withoutAltitude = false } = {}): string {
  const { frequency, comment, altitudeM, dao, telemetry, latitudeDeg, longitudeDeg } = report;
  const named = report.object !== undefined && /^[\dA-O]\d{2}\.\d{2}/.test(report.object.name);
  const words = [
    frequency ? encodeFrequency(frequency, named) : '',
    comment ?? '',
    altitudeM === undefined || withoutAltitude ? '' : encodeAltitude(altitudeM),
    dao && latitudeDeg !== undefined && longitudeDeg !== undefined
      ? encodeDao({ latitudeDeg, longitudeDeg }, dao)
      : '',
    telemetry ? encodeCommentTelemetry(telemetry) : '',
  ];
  return words.filter((word) => word !== '').join(' ');
}
