import { diffractionParameter, knifeEdgeLossDb } from './knife-edge.js';
import { edgesOf, type Edges, type Profile } from './profile.js';

/**
 * Loss by the ground between, dB over free space: the Bullington construction of ITU-R P.526
 * ("General method for one or more obstacles": the Bullington part alone; the spherical-earth correction of
 * the delta-Bullington method is left out: our paths are short of the smooth-earth horizon).
 */
export function bullingtonLossDb(profile: Profile, wavelengthM: number): number {
  const edges = edgesOf(profile);
  if (edges.inner.length === 0) return 0;
  const equivalent = knifeEdgeLossDb(equivalentNu(edges, wavelengthM));
  return equivalent + (1 - Math.exp(-equivalent / 6)) * (10 + 0.02 * edges.lengthKm);
}

/** ν of the one edge that stands for all: the worst of a clear path, or where the two horizon rays meet. */
function equivalentNu({ lengthKm, end1M, end2M, inner }: Edges, wavelengthM: number): number {
  const slope1 = Math.max(...inner.map(({ km, heightM }) => (heightM - end1M) / km));
  const direct = (end2M - end1M) / lengthKm;
  const above = (km: number, heightM: number): number =>
    diffractionParameter(heightM - (end1M + direct * km), km, lengthKm - km, wavelengthM);
  if (slope1 <= direct) return Math.max(...inner.map(({ km, heightM }) => above(km, heightM)));
  const slope2 = Math.max(...inner.map(({ km, heightM }) => (heightM - end2M) / (lengthKm - km)));
  const meetKm = (end2M - end1M + slope2 * lengthKm) / (slope1 + slope2);
  // Rays that meet at an end (a wall before the antenna) would divide by nothing.
  const km = Math.min(Math.max(meetKm, 1e-6), lengthKm - 1e-6);
  return above(km, end1M + slope1 * km);
}
