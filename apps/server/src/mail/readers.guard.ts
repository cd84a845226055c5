import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import { AccessService } from '../access/access.service.js';
import { ProblemException } from '../problems/problem.js';
import { MailSettingsService } from './mail-settings.service.js';

/** A watcher reads nothing of the mail, unless the operator allows it. Commands are refused at the door already. */
@Injectable()
export class MailReaders implements CanActivate {
  constructor(
    private readonly access: AccessService,
    private readonly settings: MailSettingsService,
  ) {}

  canActivate(context: ExecutionContext): boolean {
    const role = this.access.roleOf(context.switchToHttp().getRequest<Request>());
    if (role !== 'operator' && !this.settings.view().watchersMayRead)
      throw new ProblemException('mail-is-private');
    return true;
  }
}
