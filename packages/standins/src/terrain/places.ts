import type { Position } from '@mistpeak/core/geo/position';

/** Places of Hollin Island, an invented island in the empty ocean round 29.60° S 11.40° W. */
export const PLACES = {
  baseHut: { latitudeDeg: -29.632, longitudeDeg: -11.405 },
  anrickHead: { latitudeDeg: -29.5605, longitudeDeg: -11.262 },
  mistpeak: { latitudeDeg: -29.5684, longitudeDeg: -11.4361 },
  corvelTop: { latitudeDeg: -29.5639, longitudeDeg: -11.5445 },
  portVelan: { latitudeDeg: -29.7105, longitudeDeg: -11.4215 },
  netherQuill: { latitudeDeg: -29.6125, longitudeDeg: -11.492 },
  ostrick: { latitudeDeg: -29.5322, longitudeDeg: -11.3068 },
  sallomere: { latitudeDeg: -29.5938, longitudeDeg: -11.345 },
  weatherPoint: { latitudeDeg: -29.6512, longitudeDeg: -11.2871 },
} as const satisfies Record<string, Position>;

export const VILLAGES = [
  { name: 'Port Velan', at: PLACES.portVelan },
  { name: 'Ostrick', at: PLACES.ostrick },
  { name: 'Nether Quill', at: PLACES.netherQuill },
  { name: 'Sallomere', at: PLACES.sallomere },
] as const;

export const SUMMITS = [
  { name: 'Mistpeak', at: PLACES.mistpeak, heightM: 1214 },
  { name: 'Corvel Top', at: PLACES.corvelTop, heightM: 902 },
  { name: 'Anrick Head', at: PLACES.anrickHead, heightM: 667 },
] as const;
