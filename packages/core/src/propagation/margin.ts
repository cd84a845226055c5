import { fresnelRadiusM } from './free-space.js';
import { bulgeM, endsOf, type Ground, type Profile } from './profile.js';
import { dbmOf, profileBetween, profileLoss, type PathLoss, type RadioSite } from './reach.js';

/** A radio that also hears. thresholdDbm: the weakest packet that it reads. */
export interface RadioEnd extends RadioSite {
  readonly thresholdDbm: number;
}

/** How far the ground leaves the first Fresnel ellipsoid free, in its radii, and where it comes nearest. */
export interface Clearance {
  readonly radii: number;
  readonly km: number;
}

/** What one hears of the other. chance: that the level reaches the threshold, with the spread as a normal error. */
export interface Margin extends PathLoss {
  readonly receivedDbm: number;
  readonly marginDb: number;
  readonly spreadDb: number;
  readonly chance: number;
}

export interface Reach {
  readonly profile: Profile;
  readonly distanceKm: number;
  readonly clearance: Clearance;
  readonly there: Margin;
  readonly back: Margin;
}

/**
 * One standard deviation of predicted against measured levels, dB: less where the ellipsoid is free, more where the ground
 * decides (common practice, no source: houses, trees and the set at the body are not in any elevation).
 */
export const SPREAD_CLEAR_DB = 6;
export const SPREAD_BLOCKED_DB = 9;
/** A first ellipsoid that is free by so much costs nothing (ITU-R P.526, "Fresnel ellipsoids": 0.6 of the radius). */
export const FREE_RADII = 0.6;

/** From either end to the other, over that ground. */
export function reachBetween(here: RadioEnd, there: RadioEnd, ground: Ground, frequencyMHz: number): Reach {
  const profile = profileBetween(here, there, ground);
  const loss = profileLoss(profile, frequencyMHz);
  const clearance = leastClearance(profile, frequencyMHz);
  const spreadDb = clearance.radii >= FREE_RADII ? SPREAD_CLEAR_DB : SPREAD_BLOCKED_DB;
  return {
    profile,
    distanceKm: endsOf(profile).lengthKm,
    clearance,
    there: marginOf(here, there, loss, spreadDb),
    back: marginOf(there, here, loss, spreadDb),
  };
}

function marginOf(from: RadioSite, to: RadioEnd, loss: PathLoss, spreadDb: number): Margin {
  const receivedDbm = dbmOf(from.powerW) + from.gainDbi + to.gainDbi - loss.lossDb;
  const marginDb = receivedDbm - to.thresholdDbm;
  return { ...loss, receivedDbm, marginDb, spreadDb, chance: chanceOf(marginDb, spreadDb) };
}

/** Negative where the ground stands above the line. Infinite where there is no ground between. */
export function leastClearance(profile: Profile, frequencyMHz: number): Clearance {
  const { lengthKm, end1M, end2M } = endsOf(profile);
  const { distancesKm, heightsM } = profile;
  let least: Clearance = { radii: Infinity, km: 0 };
  // At one and the same place there is no ground between.
  if (lengthKm === 0) return least;
  for (let i = 1; i < distancesKm.length - 1; i++) {
    const km = distancesKm[i] as number;
    const line = end1M + ((end2M - end1M) * km) / lengthKm;
    const free = line - (heightsM[i] as number) - bulgeM(km, lengthKm);
    const radii = free / fresnelRadiusM(frequencyMHz, km, lengthKm - km);
    if (radii < least.radii) least = { radii, km };
  }
  return least;
}

/** That a normal error of that deviation leaves the margin above 0 (the normal distribution by Abramowitz and Stegun 26.2.17). */
export function chanceOf(marginDb: number, spreadDb: number): number {
  const z = Math.abs(marginDb) / spreadDb;
  const t = 1 / (1 + 0.2316419 * z);
  const series =
    t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  const beyond = (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) * series;
  return marginDb >= 0 ? 1 - beyond : beyond;
}
