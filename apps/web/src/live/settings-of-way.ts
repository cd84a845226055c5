import type { BeaconWaySettings, BeaconWayView } from '@mistpeak/contract/beacon-ways';

/** What the operator set of a way on which beacons leave, without what the server adds. */
export function settingsOfWay(way: BeaconWayView): BeaconWaySettings {
  const { linkId, source, plan, position, leastGapS, jitterS, stopAfter, busyAbovePercent, isOn } = way;
  return {
    linkId,
    source,
    plan,
    position,
    leastGapS,
    jitterS,
    ...(stopAfter ? { stopAfter } : {}),
    busyAbovePercent,
    isOn,
  };
}
