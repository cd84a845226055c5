/**
 * Loss over one knife edge, dB, from the diffraction parameter ν (ITU-R P.526, "Single knife-edge obstacle").
 * The approximation holds above −0.78; below, the edge costs nothing.
 */
export function knifeEdgeLossDb(nu: number): number {
  if (Number.isNaN(nu)) throw new RangeError('ν is not a number');
  if (nu <= -0.78) return 0;
  return 6.9 + 20 * Math.log10(Math.sqrt((nu - 0.1) ** 2 + 1) + nu - 0.1);
}

/** ν of an edge that stands clearanceM above (+) or below (−) the line between the ends, d1 and d2 km from them. */
export function diffractionParameter(
  clearanceM: number,
  d1Km: number,
  d2Km: number,
  wavelengthM: number,
): number {
  // h · √(2/λ · (1/d1 + 1/d2)), with the distances in km.
  return clearanceM * Math.sqrt((0.002 * (d1Km + d2Km)) / (wavelengthM * d1Km * d2Km));
}
