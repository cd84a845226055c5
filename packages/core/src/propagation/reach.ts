import type { Position } from '../geo/position.js';
import { deltaBullingtonLossDb } from './delta-bullington.js';
import { freeSpaceLossDb, wavelengthM } from './free-space.js';
import { cutProfile, endsOf, type Ground, type Profile } from './profile.js';

/** A radio with its antenna. heightM: of the antenna above the ground (or, with isAboveSea, above the sea: a balloon). */
export interface RadioSite {
  readonly position: Position;
  readonly heightM: number;
  readonly isAboveSea?: boolean;
  readonly powerW: number;
  /** Over isotropic, feed line and a body beside it taken off. */
  readonly gainDbi: number;
}

/** Weakest 1200-baud packet that an FM receiver reads, dBm (common practice, no source). */
export const PACKET_THRESHOLD_DBM = -113;

/** Nearer than this the far field does not hold; two radios on one table are taken to be so far apart. */
const NEAREST_KM = 0.01;

export interface PathLoss {
  readonly freeSpaceDb: number;
  readonly groundDb: number;
  readonly lossDb: number;
}

/** Free space and the diffraction over the ground between (delta-Bullington), on an earth of 4/3 its radius. */
export function profileLoss(profile: Profile, frequencyMHz: number): PathLoss {
  const { lengthKm } = endsOf(profile);
  const freeSpaceDb = freeSpaceLossDb(frequencyMHz, Math.max(NEAREST_KM, lengthKm));
  const groundDb =
    lengthKm <= NEAREST_KM ? 0 : deltaBullingtonLossDb(profile, frequencyMHz, wavelengthM(frequencyMHz));
  return { freeSpaceDb, groundDb, lossDb: freeSpaceDb + groundDb };
}

export function pathLoss(from: RadioSite, to: RadioSite, ground: Ground, frequencyMHz: number): PathLoss {
  return profileLoss(profileBetween(from, to, ground), frequencyMHz);
}

export function profileBetween(from: RadioSite, to: RadioSite, ground: Ground): Profile {
  return cutProfile(ground, from.position, to.position, {
    antenna1M: aboveGroundM(from, ground),
    antenna2M: aboveGroundM(to, ground),
  });
}

/** What the second hears of the first, dBm. */
export function receivedDbm(from: RadioSite, to: RadioSite, ground: Ground, frequencyMHz: number): number {
  return dbmOf(from.powerW) + from.gainDbi + to.gainDbi - pathLoss(from, to, ground, frequencyMHz).lossDb;
}

export function dbmOf(powerW: number): number {
  if (!(powerW > 0)) throw new RangeError('the power must be above 0 W');
  return 30 + 10 * Math.log10(powerW);
}

function aboveGroundM({ position, heightM, isAboveSea }: RadioSite, ground: Ground): number {
  return isAboveSea ? Math.max(1, heightM - ground(position)) : heightM;
}
