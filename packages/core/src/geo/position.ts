import geodesic from 'geographiclib-geodesic';

/** WGS-84 degrees, north and east positive. */
export interface Position {
  readonly latitudeDeg: number;
  readonly longitudeDeg: number;
}

const { Geodesic } = geodesic;

/** Distance along the geodesic in km and initial bearing 0–360° (Karney 2013, through its own library). */
export function wayTo(from: Position, to: Position): { distanceKm: number; bearingDeg: number } {
  const line = Geodesic.WGS84.Inverse(from.latitudeDeg, from.longitudeDeg, to.latitudeDeg, to.longitudeDeg);
  return { distanceKm: (line.s12 ?? 0) / 1000, bearingDeg: ((line.azi1 ?? 0) + 360) % 360 };
}

/** The place at a distance and bearing. */
export function placeAt(from: Position, distanceKm: number, bearingDeg: number): Position {
  const line = Geodesic.WGS84.Direct(from.latitudeDeg, from.longitudeDeg, bearingDeg, distanceKm * 1000);
  return { latitudeDeg: line.lat2 ?? 0, longitudeDeg: line.lon2 ?? 0 };
}

/** A geodesic leaves the straight line between two places of it by (distance)² / 8 R · tan(latitude): here by less than 0.5 m. */
const STRAIGHT_KM = 2;
const STRAIGHT_TO_LATITUDE_DEG = 80;

/** The places at these distances (km, from 0 on) along the geodesic from one place to another, to half a metre. */
export function placesAlong(from: Position, to: Position, distancesKm: readonly number[]): Position[] {
  const wanted = Geodesic.LATITUDE | Geodesic.LONGITUDE;
  const line = Geodesic.WGS84.InverseLine(
    from.latitudeDeg,
    from.longitudeDeg,
    to.latitudeDeg,
    to.longitudeDeg,
    wanted | Geodesic.DISTANCE_IN,
  );
  const exactly = (km: number): Position => {
    const { lat2, lon2 } = line.Position(km * 1000, wanted);
    return { latitudeDeg: lat2 ?? 0, longitudeDeg: lon2 ?? 0 };
  };
  // Profiles ask for a place each few metres: most are found between two that are reckoned.
  const posts: Position[] = [];
  const post = (i: number): Position => (posts[i] ??= exactly(i * STRAIGHT_KM));
  return distancesKm.map((km) => {
    const before = Math.floor(km / STRAIGHT_KM);
    const [a, b] = [post(before), post(before + 1)];
    const isPlain =
      Math.abs(a.longitudeDeg - b.longitudeDeg) < 180 && Math.abs(a.latitudeDeg) < STRAIGHT_TO_LATITUDE_DEG;
    if (!isPlain) return exactly(km);
    const share = km / STRAIGHT_KM - before;
    return {
      latitudeDeg: a.latitudeDeg + (b.latitudeDeg - a.latitudeDeg) * share,
      longitudeDeg: a.longitudeDeg + (b.longitudeDeg - a.longitudeDeg) * share,
    };
  });
}

const WINDS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'] as const;

/** The nearest of the eight winds. */
export function windName(bearingDeg: number): (typeof WINDS)[number] {
  return WINDS[Math.round((((bearingDeg % 360) + 360) % 360) / 45) % 8] as (typeof WINDS)[number];
}
