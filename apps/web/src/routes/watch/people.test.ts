import type { WatchView } from '@mistpeak/contract/watch';
import type { Need } from '@mistpeak/core/watch/standing';
import type { Sighting } from '@mistpeak/core/watch/sighting';
import { watchSentence } from './fare-words';
import { missedAt, nameOf, openAlarms, peopleOf } from './people';
import { clockMarks, scaleTimes } from './time-scale';

const MINUTE = 60_000;
const NOW = Date.UTC(2026, 3, 18, 15, 7);

const line = (call: string, label = '') => ({
  call,
  label,
  group: '',
  contact: '',
  everyMin: 5,
  leg: '',
  offM: 500,
  finish: '',
  finishRadiusM: 300,
});
const alarm = (call: string, need: Need, isAcknowledged = false, raisedAtMs = NOW) => ({
  id: `${call} ${need}`,
  call,
  need,
  raisedAtMs,
  ...(isAcknowledged ? { acknowledged: { atMs: NOW, note: '' } } : {}),
});
const heard = (minutesAgo: number, more: Partial<Sighting> = {}): Sighting => ({
  arrivals: [NOW - minutesAgo * MINUTE],
  ...more,
});
const watch = (lines: ReturnType<typeof line>[], alarms: WatchView['alarms'] = []): WatchView => ({
  settings: { name: '', watched: lines, legs: [], version: 1 },
  begunMs: NOW - 60 * MINUTE,
  alarms,
});
const callsOf = (view: WatchView, sightings: Record<string, Sighting>): string[] =>
  peopleOf(view, new Map(Object.entries(sightings)), NOW).map(({ watched }) => watched.call);

describe('those who are looked after', () => {
  it('stand by need; who has been seen to stands below, and above those who are well', () => {
    const view = watch(
      ['FINE', 'WAIT', 'LATE2', 'SEEN', 'CALL', 'LATE1'].map((call) => line(call)),
      [alarm('SEEN', 'overdue', true), alarm('LATE1', 'overdue'), alarm('CALL', 'called')],
    );
    const called = heard(1, { called: { atMs: NOW, text: 'hello' } });
    const sightings = {
      FINE: heard(1),
      WAIT: heard(6),
      LATE1: heard(30),
      LATE2: heard(20),
      SEEN: heard(40),
      CALL: called,
    };
    expect(callsOf(view, sightings)).toEqual(['CALL', 'LATE1', 'LATE2', 'SEEN', 'WAIT', 'FINE']);
  });

  it('of those who are alike the label decides, numbers by their size', () => {
    const view = watch([line('X', 'Cart 10'), line('Y', 'Cart 9'), line('B')]);
    expect(callsOf(view, { X: heard(1), Y: heard(2), B: heard(1) })).toEqual(['B', 'Y', 'X']);
    expect(nameOf(line('B'))).toBe('B');
  });

  it('alarms that nobody has taken note of, the most urgent and then the oldest first', () => {
    const view = watch(
      [line('A'), line('B')],
      [
        alarm('A', 'still'),
        alarm('A', 'overdue', false, NOW - 1),
        alarm('B', 'overdue', false, NOW - 2),
        alarm('B', 'emergency', true),
      ],
    );
    const alarms = openAlarms(peopleOf(view, new Map(), NOW));
    expect(alarms.map((one) => one.alarm.id)).toEqual(['B overdue', 'A overdue', 'A still']);
  });

  it('one sentence says how many fare how', () => {
    expect(watchSentence([])).toBe('Nobody is looked after yet.');
    expect(watchSentence(['overdue', 'fine', 'fine'])).toBe('3 looked after: 1 overdue, 2 fine.');
  });
});

describe('the hour', () => {
  it.each([
    [[0], 10, 34, [10, 20]],
    [[0], 10, 35, [10, 20]],
    [[0], 10, 36, [10, 20, 30]],
    [[0, 14, 40], 10, 44, [24, 34]],
    [[], 10, 60, []],
  ])('packets at %j, expected every %i, until %i: missed at %j', (arrivals, every, until, missed) => {
    expect(missedAt(arrivals, every, until)).toEqual(missed);
  });

  it('of a long silence no more than 200 are told', () => {
    expect(missedAt([0], 1, 1000)).toHaveLength(200);
  });

  it('has now near its right end, and a mark every twenty minutes of the clock', () => {
    const { x, fromMs, untilMs } = scaleTimes(NOW, 720);
    expect([x(fromMs), x(NOW), x(untilMs)]).toEqual([0, 600, 720]);
    expect(clockMarks(NOW).map((atMs) => new Date(atMs).toISOString().slice(11, 16))).toEqual([
      '14:20',
      '14:40',
      '15:00',
    ]);
  });
});
