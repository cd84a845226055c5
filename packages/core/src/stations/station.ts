import type { Ax25Frame } from '../ax25/frame.js';
import type { AprsReport, AprsSymbol, Weather } from '../aprs/report.js';
import { explainPath } from '../digipeating/explain.js';
import type { Position } from '../geo/position.js';

/** A station or object as far as it was heard; facts it never sent are absent. Times in ms since 1970 UTC. */
export interface Station {
  readonly name: string;
  readonly kind: 'station' | 'object';
  /** Who sent it; for an object another than its name. */
  readonly sender: string;
  readonly heardAtMs: number;
  readonly frameId: string;
  readonly count: number;
  readonly hops: number;
  readonly repeaters: readonly string[];
  readonly position?: Position;
  readonly positionAtMs?: number;
  readonly symbol?: AprsSymbol;
  readonly courseDeg?: number;
  readonly speedMps?: number;
  readonly altitudeM?: number;
  readonly weather?: Weather;
  readonly comment?: string;
}

export interface Heard {
  readonly frame: Ax25Frame;
  readonly report?: AprsReport | undefined;
  readonly heardAtMs: number;
  readonly frameId: string;
}

/** The name under which a frame is kept: the object's or item's own, else the source call. */
export function stationName({ frame, report }: Heard): string {
  return report?.object?.name ?? frame.source;
}

/** The fold: what was known and one frame more. A frame older than the last one only counts. */
export function hear(known: Station | undefined, heard: Heard): Station {
  if (known && heard.heardAtMs < known.heardAtMs) return { ...known, count: known.count + 1 };
  const { frame, report, heardAtMs, frameId } = heard;
  const { hops, repeaters } = explainPath(frame.path);
  return {
    ...known,
    name: stationName(heard),
    kind: report?.object ? 'object' : 'station',
    sender: frame.source,
    heardAtMs,
    frameId,
    count: (known?.count ?? 0) + 1,
    hops,
    repeaters,
    ...located(report, heardAtMs),
    ...told(report),
  };
}

function located(report: AprsReport | undefined, heardAtMs: number): Partial<Station> {
  if (report?.latitudeDeg === undefined || report.longitudeDeg === undefined) return {};
  const { latitudeDeg, longitudeDeg, symbol, courseDeg, speedMps, altitudeM } = report;
  return {
    position: { latitudeDeg, longitudeDeg },
    positionAtMs: heardAtMs,
    ...(symbol ? { symbol } : {}),
    ...(courseDeg === undefined ? {} : { courseDeg }),
    ...(speedMps === undefined ? {} : { speedMps }),
    ...(altitudeM === undefined ? {} : { altitudeM }),
  };
}

function told(report: AprsReport | undefined): Partial<Station> {
  const words = report?.comment ?? report?.status;
  return { ...(report?.weather ? { weather: report.weather } : {}), ...(words ? { comment: words } : {}) };
}
