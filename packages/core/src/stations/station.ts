import type { Ax25Frame } from '../ax25/frame.js';
import type { AprsReport, AprsSymbol, Frequency, Telemetry, Weather } from '../aprs/report.js';
import { shownText } from '../bits/octets.js';
import { wayOf } from '../digipeating/way.js';
import type { Position } from '../geo/position.js';

/** A station or object as far as it was heard; facts it never sent are absent. Times in ms since 1970 UTC. */
export interface Station {
  readonly name: string;
  readonly kind: 'station' | 'object';
  /** Who sent it; for an object, and for what a gateway passed on, another than its name. */
  readonly sender: string;
  /** The station itself was not heard: the sender passed its packet on from elsewhere (third-party format). */
  readonly passedOn?: boolean;
  readonly heardAtMs: number;
  readonly frameId: string;
  readonly count: number;
  /** Of the last time that it was heard on radio. */
  readonly hops: number;
  readonly repeaters: readonly string[];
  /** When it was last heard on radio, and when on the internet side; absent: never. */
  readonly radioAtMs?: number;
  readonly internetAtMs?: number;
  /** Where its last position came from. */
  readonly positionBy?: 'radio' | 'internet';
  readonly position?: Position;
  /** How many digits of it were left out; the position is the middle of that box. */
  readonly ambiguityDigits?: number;
  readonly positionAtMs?: number;
  readonly symbol?: AprsSymbol;
  readonly courseDeg?: number;
  readonly speedMps?: number;
  readonly altitudeM?: number;
  readonly weather?: Weather;
  readonly frequency?: Frequency;
  readonly telemetry?: Telemetry;
  readonly comment?: string;
  /** How far it says that it reaches: by its power, height and gain (1.0.1, "PHG"), or told outright. */
  readonly rangeM?: number;
  /** Takes messages: said so, or sent one (1.0.1, "Position and DF report data formats": `=`, `@` with, `!`, `/` without). */
  readonly messaging?: boolean;
}

export interface Heard {
  readonly frame: Ax25Frame;
  readonly report?: AprsReport | undefined;
  readonly heardAtMs: number;
  readonly frameId: string;
  /** A copy of the internet side never proves radio. */
  readonly byInternet?: boolean;
}

/** Whose report it is and what it says: of a third-party packet the one inside, for whoever is named there. */
function told(heard: Pick<Heard, 'frame' | 'report'>): { by: string; report: AprsReport | undefined } {
  let [by, report] = [heard.frame.source, heard.report];
  for (let inner = report?.thirdParty; inner; inner = report?.thirdParty) {
    by = shownText(inner.source);
    report = inner.report;
  }
  return { by, report };
}

/** The name under which a frame is kept: the object's or item's own, else the call of whoever speaks in it. */
export function stationName(heard: Heard): string {
  const { by, report } = told(heard);
  return report?.object ? shownText(report.object.name) : by;
}

/** The fold: what was known and one frame more. A frame older than the last one only counts. */
export function hear(known: Station | undefined, heard: Heard): Station {
  if (known && heard.heardAtMs < known.heardAtMs) return { ...known, count: known.count + 1 };
  const { frame, heardAtMs, frameId, byInternet = false } = heard;
  const { by, report } = told(heard);
  return {
    ...known,
    name: stationName(heard),
    kind: report?.object ? 'object' : 'station',
    sender: frame.source,
    passedOn: by !== frame.source,
    heardAtMs,
    frameId,
    count: (known?.count ?? 0) + 1,
    ...wayHere(known, heard),
    ...located(report, heardAtMs, byInternet),
    ...facts(report),
  };
}

/** A copy of the internet side leaves the way on radio as it was. */
function wayHere(
  known: Station | undefined,
  { frame, heardAtMs, byInternet = false }: Heard,
): Pick<Station, 'hops' | 'repeaters' | 'radioAtMs' | 'internetAtMs'> {
  if (byInternet)
    return { hops: known?.hops ?? 0, repeaters: known?.repeaters ?? [], internetAtMs: heardAtMs };
  const { hops, repeaters } = wayOf(frame.path);
  return { hops, repeaters, radioAtMs: heardAtMs };
}

function located(report: AprsReport | undefined, heardAtMs: number, byInternet: boolean): Partial<Station> {
  if (report?.latitudeDeg === undefined || report.longitudeDeg === undefined) return {};
  const { latitudeDeg, longitudeDeg, ambiguityDigits, symbol, courseDeg, speedMps, altitudeM } = report;
  return {
    position: { latitudeDeg, longitudeDeg },
    // Told also where it is none: an earlier report may have been ambiguous.
    ambiguityDigits: ambiguityDigits ?? 0,
    positionAtMs: heardAtMs,
    positionBy: byInternet ? 'internet' : 'radio',
    ...(symbol ? { symbol } : {}),
    ...(courseDeg === undefined ? {} : { courseDeg }),
    ...(speedMps === undefined ? {} : { speedMps }),
    ...(altitudeM === undefined ? {} : { altitudeM }),
  };
}

function facts(report: AprsReport | undefined): Partial<Station> {
  if (!report) return {};
  const { weather, frequency, telemetry } = report;
  const rangeM = report.phg?.rangeM ?? report.rangeM;
  const messaging = report.message ? true : report.messaging;
  const words = report.comment ?? report.status;
  return {
    ...(weather ? { weather } : {}),
    ...(frequency ? { frequency } : {}),
    ...(telemetry ? { telemetry } : {}),
    ...(messaging === undefined ? {} : { messaging }),
    ...(words ? { comment: shownText(words) } : {}),
    ...(rangeM === undefined ? {} : { rangeM }),
  };
}
