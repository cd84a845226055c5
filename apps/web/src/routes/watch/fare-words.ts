import type { Sighting } from '@mistpeak/core/watch/sighting';
import type { Fare, Standing } from '@mistpeak/core/watch/standing';
import type { Watched } from '@mistpeak/core/watch/watched';
import { formatDistance, type UnitSystem } from '@mistpeak/core/units/units';
import { formatAge } from '../../pieces/age';
import type { Tone } from '../../pieces/link-words';

/** What somebody without training is to see at once. */
export const FARE_TONES: Readonly<Record<Fare, Tone>> = {
  emergency: 'stop',
  called: 'look',
  overdue: 'stop',
  late: 'look',
  off: 'look',
  still: 'look',
  unheard: 'quiet',
  waiting: 'quiet',
  fine: 'proved',
  arrived: 'proved',
};

export const FARE_NAMES: Readonly<Record<Fare, string>> = {
  emergency: 'emergency',
  called: 'called us',
  overdue: 'overdue',
  late: 'late',
  off: 'off the way',
  still: 'stands still',
  unheard: 'not heard yet',
  waiting: 'one missed',
  fine: 'fine',
  arrived: 'arrived',
};

/** Of one thing that holds, in a phrase that needs nothing else. Times by the server’s clock. */
export function fareWords(
  fare: Fare,
  { watched, sighting, standing }: { watched: Watched; sighting: Sighting; standing: Standing },
  { nowMs, units }: { nowMs: number; units: UnitSystem },
): string {
  const ago = (atMs: number): string => formatAge(nowMs - atMs);
  const every = formatAge(watched.everyMs);
  switch (fare) {
    case 'emergency':
      return 'the packet says emergency';
    case 'called':
      return sighting.called ? `“${sighting.called.text}”, ${ago(sighting.called.atMs)} ago` : 'called us';
    case 'overdue':
      return sighting.arrivals.length === 0
        ? `not heard since the watch began ${ago(standing.sinceMs)} ago; expected every ${every}`
        : `silent for ${ago(standing.sinceMs)}; expected every ${every}`;
    case 'late':
      return `was due at the finish ${ago(watched.finish?.dueAtMs ?? nowMs)} ago`;
    case 'off':
      return `${formatDistance((sighting.offM ?? 0) / 1000, units)} off ${watched.leg?.name ?? 'the way'}`;
    case 'still':
      return `at one place for ${ago(sighting.stands?.sinceMs ?? nowMs)}`;
    case 'unheard':
      return `expected every ${every}`;
    case 'waiting':
      return `last heard ${ago(standing.sinceMs)} ago; expected every ${every}`;
    case 'fine':
      return `heard ${ago(standing.sinceMs)} ago`;
    case 'arrived':
      return `since ${ago(sighting.arrivedAtMs ?? nowMs)}`;
  }
}

/** `12 are looked after: 9 fine, 1 overdue, 1 off the way.` */
export function watchSentence(fares: readonly Fare[]): string {
  if (fares.length === 0) return 'Nobody is looked after yet.';
  const counts = new Map<Fare, number>();
  for (const fare of fares) counts.set(fare, (counts.get(fare) ?? 0) + 1);
  const parts = [...counts].map(([fare, count]) => `${count} ${FARE_NAMES[fare]}`);
  return `${fares.length} looked after: ${parts.join(', ')}.`;
}
