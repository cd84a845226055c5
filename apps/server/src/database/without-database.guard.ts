import {
  Injectable,
  SetMetadata,
  type CanActivate,
  type CustomDecorator,
  type ExecutionContext,
} from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { DatabaseSession } from './session.js';

const WORKS_WITHOUT = 'works without the database';
const READING = ['GET', 'HEAD'];

/** What must always work: to lock the transmitter, to close a link. */
export const WorksWithoutDatabase = (): CustomDecorator => SetMetadata(WORKS_WITHOUT, true);

/** While the database is away a command says so at once, and does not wait until its queries have run out of time. */
@Injectable()
export class WithoutDatabaseGuard implements CanActivate {
  constructor(
    private readonly database: DatabaseSession,
    private readonly reflector: Reflector,
  ) {}

  canActivate(context: ExecutionContext): boolean {
    if (context.getType() !== 'http' || !this.database.away()) return true;
    const { method } = context.switchToHttp().getRequest<{ method: string }>();
    if (READING.includes(method)) return true;
    if (this.reflector.get<boolean | undefined>(WORKS_WITHOUT, context.getHandler())) return true;
    throw Object.assign(new Error('Connection terminated'), { code: '08006' });
  }
}
