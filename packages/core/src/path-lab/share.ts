/** A share of trials with the bounds that hold in 95 of 100 cases. */
export interface Share {
  readonly hits: number;
  readonly trials: number;
  readonly share: number;
  readonly low: number;
  readonly high: number;
}

/** The quantile of the normal distribution for 95 %. */
const Z = 1.959964;

/** Wilson's score interval (Wilson 1927): sound for few trials and near 0 and 1. Without a trial everything is possible. */
export function shareOf(hits: number, trials: number): Share {
  if (trials === 0) return { hits, trials, share: 0, low: 0, high: 1 };
  const p = hits / trials;
  const zz = (Z * Z) / trials;
  const middle = (p + zz / 2) / (1 + zz);
  const half = (Z / (1 + zz)) * Math.sqrt((p * (1 - p)) / trials + zz / (4 * trials));
  return { hits, trials, share: p, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}
