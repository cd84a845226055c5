import { diffractionParameter, knifeEdgeLossDb } from './knife-edge.js';
import { bulgeM, endsOf, type Profile } from './profile.js';

/**
 * Loss by the ground between, dB over free space: the Bullington construction of ITU-R P.526 ("General method for one or
 * more obstacles"). One pass along the profile finds both horizons.
 */
export function bullingtonLossDb(profile: Profile, wavelengthM: number): number {
  const { lengthKm, end1M, end2M } = endsOf(profile);
  if (profile.distancesKm.length < 3) return 0;
  const equivalent = knifeEdgeLossDb(equivalentNu(profile, lengthKm, end1M, end2M, wavelengthM));
  return equivalent + (1 - Math.exp(-equivalent / 6)) * (10 + 0.02 * lengthKm);
}

/** ν of the one edge that stands for all: the worst of a clear path, or where the two horizon rays meet. */
function equivalentNu(
  { distancesKm, heightsM }: Profile,
  lengthKm: number,
  end1M: number,
  end2M: number,
  wavelengthM: number,
): number {
  const direct = (end2M - end1M) / lengthKm;
  const last = distancesKm.length - 1;
  let [slope1, slope2] = [-Infinity, -Infinity];
  for (let i = 1; i < last; i++) {
    const km = distancesKm[i] as number;
    const heightM = (heightsM[i] as number) + bulgeM(km, lengthKm);
    slope1 = Math.max(slope1, (heightM - end1M) / km);
    slope2 = Math.max(slope2, (heightM - end2M) / (lengthKm - km));
  }
  if (slope1 <= direct) {
    let worst = -Infinity;
    for (let i = 1; i < last; i++) {
      const km = distancesKm[i] as number;
      const aboveM = (heightsM[i] as number) + bulgeM(km, lengthKm) - (end1M + direct * km);
      worst = Math.max(worst, diffractionParameter(aboveM, km, lengthKm - km, wavelengthM));
    }
    return worst;
  }
  const meetKm = (end2M - end1M + slope2 * lengthKm) / (slope1 + slope2);
  // Rays that meet at an end (a wall before the antenna) would divide by nothing.
  const km = Math.min(Math.max(meetKm, 1e-6), lengthKm - 1e-6);
  return diffractionParameter(end1M + slope1 * km - (end1M + direct * km), km, lengthKm - km, wavelengthM);
}
