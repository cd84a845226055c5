import { nextCall, type CallSchedule } from './schedule.js';

const at = (hour: number, minute = 0, day = 3): number => Date.UTC(2026, 4, day, hour, minute);
const next = (schedule: Partial<CallSchedule>, since: number): number | undefined =>
  nextCall({ everyMinutes: 0, atTimes: [], fromHour: 0, toHour: 0, ...schedule }, since);

it.each([
  ['nothing is due', {}, at(12), undefined],
  ['every so many minutes', { everyMinutes: 30 }, at(12, 5), at(12, 35)],
  ['at its times, the next of them', { atTimes: ['07:30', '18:30'] }, at(12), at(18, 30)],
  ['a time that is now is of the past', { atTimes: ['18:30'] }, at(18, 30), at(18, 30, 4)],
  ['over midnight to tomorrow’s', { atTimes: ['07:30'] }, at(12), at(7, 30, 4)],
  ['whichever comes first', { everyMinutes: 90, atTimes: ['13:00'] }, at(12), at(13)],
  ['within its hours', { everyMinutes: 30, fromHour: 8, toHour: 13 }, at(12, 20), at(12, 50)],
  [
    'at the first of them, when one fell outside',
    { everyMinutes: 30, fromHour: 8, toHour: 13 },
    at(12, 40),
    at(8, 0, 4),
  ],
  ['the last hour is no more within', { everyMinutes: 20, fromHour: 8, toHour: 13 }, at(12, 40), at(8, 0, 4)],
  ['hours over midnight', { everyMinutes: 30, fromHour: 22, toHour: 2 }, at(23, 50), at(0, 20, 4)],
  ['hours over midnight, by day', { everyMinutes: 30, fromHour: 22, toHour: 2 }, at(12), at(22)],
  ['a time outside its hours is never', { atTimes: ['07:30'], fromHour: 8, toHour: 9 }, at(12), undefined],
] as const)('%s', (_, schedule, since, expected) =>
  expect(next(schedule as Partial<CallSchedule>, since)).toBe(expected),
);
