import type { Position } from '@mistpeak/core/geo/position';

/** Places of Hollin Island, an invented island in the empty ocean round 29.60° S 11.40° W. */
export const PLACES = {
  baseHut: { latitudeDeg: -29.632, longitudeDeg: -11.405 },
  anrickHead: { latitudeDeg: -29.5605, longitudeDeg: -11.262 },
  portVelan: { latitudeDeg: -29.7105, longitudeDeg: -11.4215 },
  netherQuill: { latitudeDeg: -29.6125, longitudeDeg: -11.492 },
  ostrick: { latitudeDeg: -29.5322, longitudeDeg: -11.3068 },
  sallomere: { latitudeDeg: -29.5938, longitudeDeg: -11.345 },
} as const satisfies Record<string, Position>;
