import { HttpException, type ValidationError } from '@nestjs/common';
import { FAILURES, type FailureReason, type Problem } from '@mistpeak/contract/failures';

const STATUS: Partial<Record<FailureReason, number>> = {
  'field-refused': 400,
  'too-much': 413,
  'not-found': 404,
  'not-a-capture': 400,
  'not-a-tile': 400,
  'not-a-map': 400,
  'not-a-kit': 400,
  'database-away': 503,
  'disk-full': 507,
  'foreign-page': 403,
  'login-needed': 401,
  'wrong-password': 401,
  'wrong-code': 401,
  'too-many-tries': 429,
  'watcher-cannot': 403,
  internal: 500,
};

/** A refusal in the operator's words; anything not listed is 409, a conflict with the state of things. */
export class ProblemException extends HttpException {
  constructor(
    readonly reason: FailureReason,
    fields?: Readonly<Record<string, string>>,
  ) {
    super(problem(reason, fields), STATUS[reason] ?? 409);
  }
}

export function problem(reason: FailureReason, fields?: Readonly<Record<string, string>>): Problem {
  const text = FAILURES[reason];
  const field = fields && Object.keys(fields)[0];
  return {
    title: text.happened,
    status: STATUS[reason] ?? 409,
    reason,
    ...text,
    ...(fields ? { fields } : {}),
    ...(field ? { field } : {}),
  };
}

/** class-validator's findings as one problem: the first message of each field. */
export function fieldsRefused(errors: readonly ValidationError[]): ProblemException {
  const fields = Object.fromEntries(
    errors.map(({ property, constraints }) => [
      property,
      Object.values(constraints ?? {}).at(-1) ?? 'not accepted',
    ]),
  );
  return new ProblemException('field-refused', fields);
}
