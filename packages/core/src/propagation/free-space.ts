const LIGHT_MPS = 299_792_458;

/** Loss between isotropic antennas in free space, dB (ITU-R P.525: 32.44 + 20 log f + 20 log d). */
export function freeSpaceLossDb(frequencyMHz: number, distanceKm: number): number {
  requirePositive(frequencyMHz, 'the frequency');
  requirePositive(distanceKm, 'the distance');
  return 32.44 + 20 * Math.log10(frequencyMHz) + 20 * Math.log10(distanceKm);
}

/** How far two antennas over a smooth earth of 4/3 its radius see one another, km (4.12 is √(2 · 4/3 · 6371 km) in √m). */
export function horizonKm(height1M: number, height2M: number): number {
  return 4.12 * (Math.sqrt(Math.max(0, height1M)) + Math.sqrt(Math.max(0, height2M)));
}

/** Radius of the n-th Fresnel ellipsoid at d1 and d2 km from the ends, m (ITU-R P.526, "Fresnel ellipsoids"). */
export function fresnelRadiusM(frequencyMHz: number, d1Km: number, d2Km: number, n = 1): number {
  requirePositive(d1Km + d2Km, 'the distance');
  return Math.sqrt((n * wavelengthM(frequencyMHz) * 1000 * d1Km * d2Km) / (d1Km + d2Km));
}

export function wavelengthM(frequencyMHz: number): number {
  requirePositive(frequencyMHz, 'the frequency');
  return LIGHT_MPS / (frequencyMHz * 1e6);
}

function requirePositive(value: number, name: string): void {
  if (!(value > 0)) throw new RangeError(`${name} must be above 0`);
}
