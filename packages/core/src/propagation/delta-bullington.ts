import { bullingtonLossDb } from './bullington.js';
import { endsOf, type Profile } from './profile.js';
import { sphericalEarthLossDb } from './spherical-earth.js';

/** The smooth ground that runs through a profile: its height at both ends, m above the sea, under neither antenna's foot. */
interface SmoothGround {
  readonly end1M: number;
  readonly end2M: number;
}

/**
 * Loss by the ground between, dB over free space (ITU-R P.526, "Complete delta-Bullington model", from memory): Bullington's
 * loss of the real ground, and besides what a smooth earth under the same antennas loses more than Bullington says of it.
 */
export function deltaBullingtonLossDb(profile: Profile, frequencyMHz: number, wavelengthM: number): number {
  const { lengthKm, end1M, end2M } = endsOf(profile);
  const real = bullingtonLossDb(profile, wavelengthM);
  const ground = smoothGround(profile);
  const [height1M, height2M] = [end1M - ground.end1M, end2M - ground.end2M];
  const smooth: Profile = {
    distancesKm: profile.distancesKm,
    heightsM: new Float64Array(profile.distancesKm.length),
    antenna1M: height1M,
    antenna2M: height2M,
  };
  const sphere = sphericalEarthLossDb({
    distanceKm: lengthKm,
    height1M,
    height2M,
    frequencyMHz,
    wavelengthM,
  });
  return real + Math.max(sphere - bullingtonLossDb(smooth, wavelengthM), 0);
}

/** The straight line of least squares through the ground, let down where the ground rises above the line of sight. */
function smoothGround(profile: Profile): SmoothGround {
  const { distancesKm, heightsM } = profile;
  const { lengthKm: d, end1M, end2M } = endsOf(profile);
  const last = distancesKm.length - 1;
  let [v1, v2, obstacleM, angle1, angle2] = [0, 0, -Infinity, -Infinity, -Infinity];
  for (let i = 1; i <= last; i++) {
    const [km, before] = [distancesKm[i] as number, distancesKm[i - 1] as number];
    const [heightM, beforeM] = [heightsM[i] as number, heightsM[i - 1] as number];
    v1 += (km - before) * (heightM + beforeM);
    v2 += (km - before) * (heightM * (2 * km + before) + beforeM * (km + 2 * before));
    if (i === last) break;
    const aboveM = heightM - (end1M * (d - km) + end2M * km) / d;
    obstacleM = Math.max(obstacleM, aboveM);
    angle1 = Math.max(angle1, aboveM / km);
    angle2 = Math.max(angle2, aboveM / (d - km));
  }
  let fit1M = (2 * v1 * d - v2) / d ** 2;
  let fit2M = (v2 - v1 * d) / d ** 2;
  if (obstacleM > 0) {
    fit1M -= (obstacleM * angle1) / (angle1 + angle2);
    fit2M -= (obstacleM * angle2) / (angle1 + angle2);
  }
  return { end1M: Math.min(fit1M, heightsM[0] as number), end2M: Math.min(fit2M, heightsM[last] as number) };
}
