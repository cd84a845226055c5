/** Seeded dice, 0 ≤ x < 1 (mulberry32, a public-domain generator): the same seed gives the same throws. */
export function seededDice(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** One of them, each as often as its chance; chances are 1 in all. */
export function drawnBy<One>(of: readonly One[], chance: (one: One) => number, throwDice: () => number): One {
  let left = throwDice();
  for (const one of of) {
    left -= chance(one);
    if (left < 0) return one;
  }
  return of.at(-1) as One;
}
