import { HttpException } from '@nestjs/common';
import { FAILURES, type FailureReason } from '@mistpeak/contract/failures';
import { refuseIfChanged } from './changed-meanwhile.js';
import { fieldsRefused, problem, ProblemException } from './problem.js';

// RFC 9110, 15.5 and 15.6; 507: RFC 4918, 11.5; 429: RFC 6585, 4
const STATUS: Partial<Record<FailureReason, number>> = {
  'field-refused': 400,
  'not-a-capture': 400,
  'not-a-tile': 400,
  'not-a-map': 400,
  'not-a-kit': 400,
  'login-needed': 401,
  'wrong-password': 401,
  'wrong-code': 401,
  'foreign-page': 403,
  'watcher-cannot': 403,
  'not-found': 404,
  'too-much': 413,
  'too-many-tries': 429,
  internal: 500,
  'database-away': 503,
  'disk-full': 507,
};

describe('a refusal', () => {
  it.each(Object.keys(FAILURES) as FailureReason[])('%s has its status and its words', (reason) => {
    const status = STATUS[reason] ?? 409;
    const refusal = new ProblemException(reason);
    expect(refusal).toBeInstanceOf(HttpException);
    expect(refusal.getStatus()).toBe(status);
    expect(refusal.getResponse()).toEqual({
      title: FAILURES[reason].happened,
      status,
      reason,
      ...FAILURES[reason],
    });
  });

  it('names its first field, and all of them with their words', () => {
    expect(problem('field-refused', { name: 'too long', port: 'too high' })).toMatchObject({
      field: 'name',
      fields: { name: 'too long', port: 'too high' },
    });
    expect(problem('field-refused')).not.toHaveProperty('field');
    expect(problem('field-refused', {})).not.toHaveProperty('field');
  });

  it('of several checks takes the last word of each field', () => {
    const found = fieldsRefused([
      { property: 'port', constraints: { isInt: 'a number', max: 'too high' } },
      { property: 'odd' },
    ]);
    expect(found.getResponse()).toMatchObject({
      status: 400,
      fields: { port: 'too high', odd: 'not accepted' },
    });
  });
});

it('a form that began with another version is refused, one without a version never', () => {
  expect(() => refuseIfChanged(3, 3)).not.toThrow();
  expect(() => refuseIfChanged(3, undefined)).not.toThrow();
  for (const other of [2, 4, 0]) expect(() => refuseIfChanged(3, other)).toThrow(ProblemException);
});
