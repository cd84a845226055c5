import { UNSEEN, type Sighting } from '@mistpeak/core/watch/sighting';
import { FARES, standingOf, type Standing } from '@mistpeak/core/watch/standing';
import { watchedOf } from '@mistpeak/core/watch/watch-list';
import type { Watched } from '@mistpeak/core/watch/watched';
import type { Alarm } from '@mistpeak/core/watch/desk';
import type { WatchView } from '@mistpeak/contract/watch';

/** One who is looked after, as they stand now. */
export interface Person {
  readonly watched: Watched;
  readonly sighting: Sighting;
  readonly standing: Standing;
  /** What holds of them, each alarm acknowledged or not. */
  readonly alarms: readonly Alarm[];
}

/** Everybody, the one with the greatest need first; of the same need whose packet is missing longest, then by label. */
export function peopleOf(
  { settings, begunMs, alarms }: WatchView,
  sightings: ReadonlyMap<string, Sighting>,
  nowMs: number,
): readonly Person[] {
  const people = settings.watched.map((line): Person => {
    const watched = watchedOf(line, settings.legs);
    const sighting = sightings.get(watched.call) ?? UNSEEN;
    const own = alarms.filter(({ call }) => call === watched.call);
    const wasOff = own.some(({ need }) => need === 'off');
    const standing = standingOf(watched, sighting, { nowMs, begunMs, wasOff });
    return { watched, sighting, standing, alarms: own };
  });
  return people.sort(
    (a, b) =>
      rankOf(a) - rankOf(b) ||
      (isWaitedFor(a) && isWaitedFor(b) ? a.standing.expectedAtMs - b.standing.expectedAtMs : 0) ||
      nameOf(a.watched).localeCompare(nameOf(b.watched), 'en', { numeric: true }),
  );
}

/** What somebody has taken note of stands below what nobody has, and above those who are well. */
function rankOf({ standing, alarms }: Person): number {
  const open = standing.needs.find((need) => !alarms.some((one) => one.need === need && one.acknowledged));
  if (open) return FARES.indexOf(open);
  return standing.needs.length > 0 ? FARES.indexOf('still') + 0.5 : FARES.indexOf(standing.fare);
}

const isWaitedFor = ({ standing: { fare } }: Person): boolean => fare === 'overdue' || fare === 'waiting';

export const nameOf = ({ label, call }: Pick<Watched, 'label' | 'call'>): string => label || call;

/** Unacknowledged ones, the most urgent first, of the same need the oldest. */
export function openAlarms(people: readonly Person[]): readonly { person: Person; alarm: Alarm }[] {
  return people
    .flatMap((person) =>
      person.alarms.filter(({ acknowledged }) => !acknowledged).map((alarm) => ({ person, alarm })),
    )
    .sort(
      (a, b) =>
        FARES.indexOf(a.alarm.need) - FARES.indexOf(b.alarm.need) || a.alarm.raisedAtMs - b.alarm.raisedAtMs,
    );
}

/** Expected packets that did not come, ms; more than so many in a gap are not told one by one. */
export function missedAt(arrivals: readonly number[], everyMs: number, untilMs: number): readonly number[] {
  const missed: number[] = [];
  for (const [i, atMs] of arrivals.entries()) {
    const nextMs = arrivals[i + 1] ?? untilMs;
    // Half an interval early or late is on time.
    for (let dueMs = atMs + everyMs; dueMs < nextMs - everyMs / 2 && missed.length < 200; dueMs += everyMs)
      missed.push(dueMs);
  }
  return missed;
}
