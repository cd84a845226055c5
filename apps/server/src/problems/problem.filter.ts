import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Request, Response } from 'express';
import { QueryFailedError } from 'typeorm';
import type { Problem } from '@mistpeak/contract/failures';
import { troubleOf, type DatabaseTrouble } from '../database/trouble.js';
import type { FailureReason } from '@mistpeak/contract/failures';
import { problem, ProblemException } from './problem.js';

/** What the operator is told where the database does not take a command. */
const BY_TROUBLE: Partial<Record<DatabaseTrouble, FailureReason>> = {
  away: 'database-away',
  silent: 'database-away',
  full: 'disk-full',
};

const BY_STATUS: Readonly<Record<number, FailureReason>> = { 404: 'not-found', 413: 'too-much' };

/** So long who wants the line closed after the answer may go on sending: closed under him, the answer would be lost. */
const HEARD_OUT_MS = 2000;

/** Every error leaves as application/problem+json; what we did not foresee is logged and told as internal. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const body = this.bodyOf(error);
    const request = host.switchToHttp().getRequest<Request>();
    const response = host.switchToHttp().getResponse<Response>();
    const answer = (): void => {
      if (!response.headersSent) response.status(body.status).type('application/problem+json').send(body);
    };
    if (request.complete || !/\bclose\b/i.test(request.headers.connection ?? '')) return answer();
    const limit = setTimeout(answer, HEARD_OUT_MS).unref();
    request.once('close', () => clearTimeout(limit));
    request.once('end', answer).resume();
  }

  private bodyOf(error: unknown): Problem {
    if (error instanceof ProblemException) return error.getResponse() as Problem;
    // The body's reader says so before there is a request of ours.
    if ((error as { type?: unknown } | undefined)?.type === 'entity.too.large') return problem('too-much');
    const reason = BY_TROUBLE[troubleOf(error)];
    if (reason) return problem(reason);
    if (error instanceof HttpException) {
      const status = error.getStatus();
      return { ...problem(BY_STATUS[status] ?? 'field-refused'), status };
    }
    this.log.error(error instanceof QueryFailedError ? error.message : error);
    return problem('internal');
  }
}
