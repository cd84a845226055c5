import {
  Injectable,
  SetMetadata,
  type CanActivate,
  type CustomDecorator,
  type ExecutionContext,
} from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import { ProblemException } from '../problems/problem.js';
import { AccessService } from './access.service.js';

const OPEN = 'open to all';
const READING = ['GET', 'HEAD'];

/** Needs no role: how one becomes somebody. */
export const OpenToAll = (): CustomDecorator => SetMetadata(OPEN, true);

/** Every command of the operator's alone; reading is for watchers too. One place, so that no new command is forgotten. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly access: AccessService,
    private readonly reflector: Reflector,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    // The event stream asks for itself; it takes nothing from its pages.
    if (context.getType() !== 'http') return true;
    if (this.reflector.get<boolean | undefined>(OPEN, context.getHandler())) return true;
    const request = context.switchToHttp().getRequest<Request>();
    const role = await this.access.roleOf(request);
    if (role === null) throw new ProblemException('login-needed');
    if (role === 'watcher' && !READING.includes(request.method)) throw new ProblemException('watcher-cannot');
    return true;
  }
}
