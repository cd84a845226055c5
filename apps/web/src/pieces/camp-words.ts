import type { Camp } from '@mistpeak/core/proof/ladder';
import { formatAge } from './age';

/** What stands beside a camp: how old its evidence is, or that there is none. */
export function describeCamp({ state, evidence }: Camp, nowMs: number): string {
  const age = evidence ? `${formatAge(nowMs - evidence.atMs)} ago` : '';
  switch (state) {
    case 'lit':
      return age;
    case 'faded':
      return `faded, ${age}`;
    case 'doubtful':
      return 'doubtful';
    case 'dark':
      return 'not tried';
  }
}

/** `proved up to “packet decoded”`. */
export function describeClimb(camps: readonly Camp[]): string {
  const first = camps.findIndex(({ state }) => state !== 'lit');
  if (first === 0) return 'nothing is proved yet';
  const top = camps.at(first < 0 ? -1 : first - 1);
  return first < 0 ? `proved to the top: ${top?.rung}` : `proved up to “${top?.rung}”`;
}
