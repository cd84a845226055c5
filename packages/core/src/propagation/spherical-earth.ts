import { EFFECTIVE_EARTH_KM } from './profile.js';

/** Land of average kind: relative permittivity and conductivity, S/m (ITU-R P.526, delta-Bullington: the usual values over land). */
const PERMITTIVITY = 22;
const CONDUCTIVITY = 0.003;

/** One way over a smooth earth. heights: of the antennas above it, m, above 0; frequencyMHz: from 20 MHz on. */
export interface SmoothPath {
  readonly distanceKm: number;
  readonly height1M: number;
  readonly height2M: number;
  readonly frequencyMHz: number;
  readonly wavelengthM: number;
}

/**
 * Loss by a smooth spherical earth, dB over free space (ITU-R P.526, "Diffraction over a spherical earth", formulas from
 * memory): beyond the horizon the first term of the residue series; before it, where the ray is not clear, a part of that
 * loss for an earth whose horizon lies just there. Vertical polarisation over land.
 */
export function sphericalEarthLossDb(path: SmoothPath): number {
  const { distanceKm: d, height1M, height2M, wavelengthM } = path;
  const lineOfSightKm =
    Math.sqrt(2 * EFFECTIVE_EARTH_KM) * (Math.sqrt(0.001 * height1M) + Math.sqrt(0.001 * height2M));
  if (d >= lineOfSightKm) return firstTermDb(path, EFFECTIVE_EARTH_KM);
  const { clearanceM, d1Km } = leastClearance(path);
  const d2Km = d - d1Km;
  const wantedM = 17.456 * Math.sqrt((d1Km * d2Km * wavelengthM) / d);
  if (clearanceM > wantedM) return 0;
  const justInSightKm = 500 * (d / (Math.sqrt(height1M) + Math.sqrt(height2M))) ** 2;
  const atHorizon = firstTermDb(path, justInSightKm);
  return atHorizon < 0 ? 0 : (1 - clearanceM / wantedM) * atHorizon;
}

/** The least height of the ray above the earth, and how far from the first end that is. */
function leastClearance({ distanceKm: d, height1M, height2M }: SmoothPath): {
  clearanceM: number;
  d1Km: number;
} {
  const c = (height1M - height2M) / (height1M + height2M);
  const m = (250 * d * d) / (EFFECTIVE_EARTH_KM * (height1M + height2M));
  const angle = Math.PI / 3 + Math.acos(((3 * c) / 2) * Math.sqrt((3 * m) / (m + 1) ** 3)) / 3;
  const b = 2 * Math.sqrt((m + 1) / (3 * m)) * Math.cos(angle);
  const d1Km = (d / 2) * (1 + b);
  const d2Km = d - d1Km;
  const drop = (km: number): number => (500 * km * km) / EFFECTIVE_EARTH_KM;
  const clearanceM = ((height1M - drop(d1Km)) * d2Km + (height2M - drop(d2Km)) * d1Km) / d;
  return { clearanceM, d1Km };
}

/** First term of the residue series for an earth of that radius, dB. */
function firstTermDb({ distanceKm, height1M, height2M, frequencyMHz }: SmoothPath, radiusKm: number): number {
  const ground = (18_000 * CONDUCTIVITY) / frequencyMHz;
  const horizontal =
    0.36 * (radiusKm * frequencyMHz) ** (-1 / 3) * ((PERMITTIVITY - 1) ** 2 + ground ** 2) ** (-1 / 4);
  const k = horizontal * Math.sqrt(PERMITTIVITY ** 2 + ground ** 2);
  const beta = (1 + 1.6 * k ** 2 + 0.67 * k ** 4) / (1 + 4.5 * k ** 2 + 1.53 * k ** 4);
  const x = 2.188 * beta * Math.cbrt(frequencyMHz) * radiusKm ** (-2 / 3) * distanceKm;
  const y = (heightM: number): number =>
    9.575e-3 * beta * frequencyMHz ** (2 / 3) * Math.cbrt(1 / radiusKm) * heightM;
  return -(distanceTerm(x) + heightGain(beta * y(height1M), k) + heightGain(beta * y(height2M), k));
}

const distanceTerm = (x: number): number =>
  x >= 1.6 ? 11 + 10 * Math.log10(x) - 17.6 * x : -20 * Math.log10(x) - 5.6488 * x ** 1.425;

function heightGain(b: number, k: number): number {
  const gain =
    b > 2 ? 17.6 * Math.sqrt(b - 1.1) - 5 * Math.log10(b - 1.1) - 8 : 20 * Math.log10(b + 0.1 * b ** 3);
  return Math.max(gain, 2 + 20 * Math.log10(k));
}
