import {
  Inject,
  Injectable,
  type CallHandler,
  type ExecutionContext,
  type NestInterceptor,
} from '@nestjs/common';
import type { Request, Response } from 'express';
import { defer, from, lastValueFrom, type Observable } from 'rxjs';
import { COMMAND_ID } from '@mistpeak/contract/command-id';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { EVEN_LATE } from './done-even-late.js';
import { ProblemException } from '../problems/problem.js';

/** So long after it began a command that comes again is answered as the first time. */
export const REMEMBERED_FOR_MS = 10 * 60_000;
export const MOST_REMEMBERED = 1000;

interface Known {
  readonly atMs: number;
  readonly outcome: Promise<unknown>;
}

/** One command is one thing: repeated under the id that its client made, it is not done again. */
@Injectable()
export class OnceInterceptor implements NestInterceptor {
  private readonly known = new Map<string, Known>();

  constructor(@Inject(CLOCK) private readonly clock: Clock) {}

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const request = context.switchToHttp().getRequest<Request>();
    const id = request.get(COMMAND_ID);
    if (id === undefined) return next.handle();
    // The way it went is part of it: an id that is used for something else is another command.
    const key = `${id} ${request.method} ${request.originalUrl}`;
    const known = this.known.get(key);
    if (known && known.atMs >= this.clock.upMs() - REMEMBERED_FOR_MS) return from(known.outcome);
    this.makeRoom();
    this.known.delete(key);
    const isForSilence = Reflect.getMetadata(EVEN_LATE, context.getHandler()) === true;
    const outcome = this.perform(request, next, isForSilence);
    this.known.set(key, { atMs: this.clock.upMs(), outcome });
    const response = context.switchToHttp().getResponse<Response>();
    outcome.then(
      // An answer that hands out a key to this house is given once.
      () => response.hasHeader('set-cookie') && this.known.delete(key),
      // What was refused may be tried again.
      () => this.known.delete(key),
    );
    return from(outcome);
  }

  /** A server that stood still finds what was asked meanwhile: who has gone away since was told that it was not done. */
  private async perform({ socket }: Request, next: CallHandler, isEvenLate: boolean): Promise<unknown> {
    // Whether it has gone is read one turn of the event loop after what it asked.
    for (let turn = 0; turn < 2; turn++) await new Promise((resolve) => setImmediate(resolve));
    if (!isEvenLate && (socket.destroyed || socket.readableEnded)) throw new ProblemException('given-up');
    return lastValueFrom(
      defer(() => next.handle()),
      { defaultValue: undefined },
    );
  }

  private makeRoom(): void {
    const [oldest] = this.known.keys();
    if (this.known.size >= MOST_REMEMBERED && oldest !== undefined) this.known.delete(oldest);
  }
}
