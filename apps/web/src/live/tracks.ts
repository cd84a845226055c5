import type { StationView, Track, TrackPoint } from '@mistpeak/contract/station';
import { useEffect, useState } from 'react';
import { keepAsking } from './keep-asking';
import { useLive } from './store';

const HOUR_MS = 3_600_000;
const FOLLOW_EVERY_MS = 5000;

/** Tracks of the last hours: fetched once, then carried on with each new place that a station reports. */
export function useTracks(nowMs: number, hours = 3): readonly Track[] {
  const [tracks, setTracks] = useState<readonly Track[]>([]);
  useEffect(() => {
    const sinceMs = Math.round(nowMs - hours * HOUR_MS);
    // The map does without them; that the server is away is said at the top of the page.
    const giveUp = keepAsking(`/stations/tracks?sinceMs=${sinceMs}`, setTracks);
    const timer = setInterval(
      () => setTracks((before) => carriedOn(before, useLive.getState().stations)),
      FOLLOW_EVERY_MS,
    );
    return () => {
      giveUp();
      clearInterval(timer);
    };
    // Once, from the time at which the page was opened.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [hours]);
  return tracks;
}

/** The same list where nobody moved. */
export function carriedOn(
  tracks: readonly Track[],
  stations: ReadonlyMap<string, StationView>,
): readonly Track[] {
  let hasChanged = false;
  const known = new Set(tracks.map(({ name }) => name));
  const longer = tracks.map((track) => {
    const point = pointOf(stations.get(track.name));
    const last = track.points.at(-1);
    if (!point || !last || point[0] <= last[0] || (point[1] === last[1] && point[2] === last[2]))
      return track;
    hasChanged = true;
    return { ...track, points: [...track.points, point] };
  });
  const begun = [...stations.values()].flatMap((station) => {
    const point = pointOf(station);
    return known.has(station.name) || !point ? [] : [{ name: station.name, points: [point] }];
  });
  return hasChanged || begun.length > 0 ? [...longer, ...begun] : tracks;
}

function pointOf(station: StationView | undefined): TrackPoint | undefined {
  if (!station?.position || station.positionAtMs === undefined) return undefined;
  const { latitudeDeg, longitudeDeg } = station.position;
  return station.positionBy === 'internet'
    ? [station.positionAtMs, latitudeDeg, longitudeDeg, true]
    : [station.positionAtMs, latitudeDeg, longitudeDeg];
}
