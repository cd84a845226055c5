import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { LATEST_MS } from '@mistpeak/contract/latest-time';
import { FramesQuery } from './frames-query.js';

const wrong = (query: object): string[] =>
  validateSync(plainToInstance(FramesQuery, query)).map(({ property }) => property);

it('a page has two hundred entries unless another number is asked for, of at most a thousand', () => {
  expect(plainToInstance(FramesQuery, {}).limit).toBe(200);
  expect(plainToInstance(FramesQuery, { limit: '7' }).limit).toBe(7);
  expect([1, 1000].map((limit) => wrong({ limit }))).toEqual([[], []]);
  for (const limit of [0, 1001, 1.5, 'x']) expect(wrong({ limit })).toEqual(['limit']);
});

it('times are those that a date can have', () => {
  expect([0, LATEST_MS].map((beforeMs) => wrong({ beforeMs }))).toEqual([[], []]);
  for (const beforeMs of [-1, LATEST_MS + 1, 0.5]) expect(wrong({ beforeMs })).toEqual(['beforeMs']);
  expect(wrong({ beforeId: 'x' })).toEqual(['beforeId']);
});
