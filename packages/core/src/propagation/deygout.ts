import { diffractionParameter, knifeEdgeLossDb } from './knife-edge.js';
import { bulgeM, endsOf, type Profile } from './profile.js';

interface Edge {
  readonly km: number;
  readonly heightM: number;
}

/**
 * Loss by the ground between, dB over free space: Deygout's construction limited to three edges, as older editions of
 * ITU-R P.526 had it: J(νp) + T·(J(ν1) + J(ν2) + C), T = 1 − e^(−J(νp)/6), C = 10 + 0.04 d.
 */
export function deygoutLossDb(profile: Profile, wavelengthM: number): number {
  const { lengthKm, end1M, end2M } = endsOf(profile);
  const ends: [Edge, Edge] = [
    { km: 0, heightM: end1M },
    { km: lengthKm, heightM: end2M },
  ];
  const edges = innerEdges(profile, lengthKm);
  const main = worst(edges, ...ends, wavelengthM);
  if (!main || main.nu <= -0.78) return 0;
  const before = worst(edges, ends[0], main.edge, wavelengthM);
  const after = worst(edges, main.edge, ends[1], wavelengthM);
  const principal = knifeEdgeLossDb(main.nu);
  const others = (before ? knifeEdgeLossDb(before.nu) : 0) + (after ? knifeEdgeLossDb(after.nu) : 0);
  return principal + (1 - Math.exp(-principal / 6)) * (others + 10 + 0.04 * lengthKm);
}

/** The inner points, with the earth's bulge. */
function innerEdges({ distancesKm, heightsM }: Profile, lengthKm: number): Edge[] {
  return Array.from({ length: distancesKm.length - 2 }, (_, i) => {
    const km = distancesKm[i + 1] as number;
    return { km, heightM: (heightsM[i + 1] as number) + bulgeM(km, lengthKm) };
  });
}

function worst(
  inner: readonly Edge[],
  from: Edge,
  to: Edge,
  wavelengthM: number,
): { edge: Edge; nu: number } | undefined {
  let found: { edge: Edge; nu: number } | undefined;
  for (const edge of inner) {
    if (edge.km <= from.km || edge.km >= to.km) continue;
    const line = from.heightM + ((to.heightM - from.heightM) * (edge.km - from.km)) / (to.km - from.km);
    const nu = diffractionParameter(edge.heightM - line, edge.km - from.km, to.km - edge.km, wavelengthM);
    if (!found || nu > found.nu) found = { edge, nu };
  }
  return found;
}
