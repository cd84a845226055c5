import type { Evidence, Rung } from './evidence.js';

const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;

export type Purpose = 'receive' | 'beacon';

/** The rungs of each purpose, in order. */
export const PURPOSES: Readonly<Record<Purpose, { readonly name: string; readonly rungs: readonly Rung[] }>> =
  {
    receive: { name: 'receive only', rungs: ['port open', 'TNC talks', 'packet decoded'] },
    beacon: {
      name: 'position beacon',
      rungs: ['port open', 'TNC talks', 'packet decoded', 'handed to the TNC', 'keyed', 'repeated'],
    },
  };

/** Whoever moves must be heard anew more often than a fixed station. */
export interface Situation {
  readonly isOpen: boolean;
  readonly isMoving: boolean;
}

/** How long evidence stands before it has faded; 0: it stands as long as the link is open. */
function standsMs(rung: Rung, { isMoving }: Situation): number {
  switch (rung) {
    case 'port open':
      return 0;
    case 'TNC talks':
    case 'packet decoded':
      return 10 * MINUTE_MS;
    case 'handed to the TNC':
      return ECHO_DOUBT_MS;
    case 'keyed':
      return HOUR_MS;
    case 'repeated':
      return isMoving ? 30 * MINUTE_MS : 24 * HOUR_MS;
  }
}

/** Handed over and no echo for this long: that it was keyed is doubtful. */
export const ECHO_DOUBT_MS = 30_000;

/** What proves a rung proves those below it on the same way: an echo was handed over and keyed. */
const ALSO_PROVED_BY: Partial<Record<Rung, readonly Rung[]>> = {
  'TNC talks': ['packet decoded', 'keyed', 'repeated'],
  'packet decoded': ['keyed', 'repeated'],
  'handed to the TNC': ['keyed', 'repeated'],
  keyed: ['repeated'],
};

/**
 * lit: by evidence that still stands · faded: it was, and the evidence is old · doubtful: something speaks against it ·
 * dark: nothing has lit it. freshness: 1 when new, 0 when just faded.
 */
export interface Camp {
  readonly rung: Rung;
  readonly state: 'lit' | 'faded' | 'doubtful' | 'dark';
  readonly evidence?: Evidence;
  readonly freshness: number;
}

/** The climb of one link for one purpose: evidence in, camps out, lowest first. */
export function climb(
  purpose: Purpose,
  evidence: readonly Evidence[],
  situation: Situation,
  nowMs: number,
): readonly Camp[] {
  return PURPOSES[purpose].rungs.map((rung) => camp(rung, evidence, situation, nowMs));
}

function camp(rung: Rung, evidence: readonly Evidence[], situation: Situation, nowMs: number): Camp {
  if (rung === 'keyed' && isKeyingDoubtful(evidence, nowMs)) return { rung, state: 'doubtful', freshness: 0 };
  const accepted = [rung, ...(ALSO_PROVED_BY[rung] ?? [])];
  const candidates = evidence.filter((one) => accepted.includes(one.rung) && one.atMs <= nowMs);
  const best = candidates.reduce<Evidence | undefined>(
    (kept, one) =>
      freshness(one, situation, nowMs) >= (kept ? freshness(kept, situation, nowMs) : 0) ? one : kept,
    undefined,
  );
  const newest = best ?? candidates.at(-1);
  if (!newest) return { rung, state: 'dark', freshness: 0 };
  const fresh = freshness(newest, situation, nowMs);
  return { rung, state: fresh > 0 ? 'lit' : 'faded', evidence: newest, freshness: fresh };
}

/** Evidence of a higher rung stands for a lower one as long as it stands itself. */
function freshness(evidence: Evidence, situation: Situation, nowMs: number): number {
  const limitMs = standsMs(evidence.rung, situation);
  if (limitMs === 0) return situation.isOpen ? 1 : 0;
  return Math.max(0, 1 - (nowMs - evidence.atMs) / limitMs);
}

function isKeyingDoubtful(evidence: readonly Evidence[], nowMs: number): boolean {
  const last = (rungs: readonly Rung[]): number =>
    Math.max(-Infinity, ...evidence.filter(({ rung }) => rungs.includes(rung)).map(({ atMs }) => atMs));
  const handedAtMs = last(['handed to the TNC']);
  return last(['keyed', 'repeated']) < handedAtMs && nowMs - handedAtMs >= ECHO_DOUBT_MS;
}

/** The first rung from below that does not stand: what to prove next. Undefined at the top. */
export function nextRung(camps: readonly Camp[]): Camp | undefined {
  return camps.find(({ state }) => state !== 'lit');
}
