import type { Position } from '../geo/position.js';
import { escapeXml } from './gpx.js';
import type { TrackFile } from './track.js';

export interface KmlPlace extends Position {
  readonly name: string;
  readonly about: string;
}

/** KML 2.2 (OGC 07-147r2): tracks as lines, places as points. Coordinates are longitude, latitude, altitude. */
export function formatKml(name: string, tracks: readonly TrackFile[], places: readonly KmlPlace[]): string {
  const line = ({ name: of, points }: TrackFile): string =>
    `<Placemark><name>${escapeXml(of)}</name><LineString><tessellate>1</tessellate><coordinates>${points
      .map(({ latitudeDeg, longitudeDeg, altitudeM }) => coordinates(longitudeDeg, latitudeDeg, altitudeM))
      .join(' ')}</coordinates></LineString></Placemark>`;
  const point = ({ name: of, about, latitudeDeg, longitudeDeg }: KmlPlace): string =>
    `<Placemark><name>${escapeXml(of)}</name><description>${escapeXml(about)}</description>` +
    `<Point><coordinates>${coordinates(longitudeDeg, latitudeDeg)}</coordinates></Point></Placemark>`;
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<kml xmlns="http://www.opengis.net/kml/2.2"><Document><name>${escapeXml(name)}</name>`,
    ...tracks.map(line),
    ...places.map(point),
    '</Document></kml>',
    '',
  ].join('\n');
}

const coordinates = (longitudeDeg: number, latitudeDeg: number, altitudeM?: number): string =>
  [
    Number(longitudeDeg.toFixed(7)),
    Number(latitudeDeg.toFixed(7)),
    ...(altitudeM === undefined ? [] : [altitudeM]),
  ].join(',');
