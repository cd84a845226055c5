import { isMalformed } from '@mistpeak/core/bits/malformed';
import { stationName } from '@mistpeak/core/stations/station';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { StationView } from '@mistpeak/contract/station';
import { readRecord } from '../../live/views';
import type { Stop } from '../../pieces/map/way-layer';

/** The one selection of lanes, log, list and map: a frame, and the station that it is of. */
export interface Selection {
  readonly frameId: string | undefined;
  readonly station: string | undefined;
  /** The frame itself, where it may not be at hand. */
  readonly record?: FrameRecord;
}

export const NOTHING: Selection = { frameId: undefined, station: undefined };

export function selectionOfFrame(record: FrameRecord): Selection {
  return { frameId: record.id, station: stationOf(record), record };
}

/** The name under which a record's station is kept; undefined where it could not be read. */
export function stationOf(record: FrameRecord): string | undefined {
  const { view } = readRecord(record);
  if (isMalformed(view)) return undefined;
  return stationName({ frame: view.frame, report: view.report, heardAtMs: record.atMs, frameId: record.id });
}

/** The stops of a heard frame: its sender, who repeated it, and I. */
export function wayOf(
  record: FrameRecord | undefined,
  stations: ReadonlyMap<string, StationView>,
  operator: OperatorView,
): Stop[] {
  if (!record || record.direction === 'sent') return [];
  const { view } = readRecord(record);
  if (isMalformed(view)) return [];
  const { frame, report, path } = view;
  const sent =
    report?.latitudeDeg !== undefined && report.longitudeDeg !== undefined && !report.object
      ? { latitudeDeg: report.latitudeDeg, longitudeDeg: report.longitudeDeg }
      : stations.get(frame.source)?.position;
  return [
    { call: frame.source, position: sent },
    ...path.repeaters.map((call) => ({ call, position: stations.get(call)?.position })),
    { call: 'me', position: operator.position },
  ];
}
