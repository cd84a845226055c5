import { randomUUID } from 'node:crypto';
import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import { isUUID } from 'class-validator';
import type { Request } from 'express';
import { COMMAND_ID } from '@mistpeak/contract/command-id';

/** What a command makes has the command’s own id: made twice, also across a restart, it is one. */
export const CommandId = createParamDecorator((_: unknown, context: ExecutionContext): string => {
  const given = context.switchToHttp().getRequest<Request>().get(COMMAND_ID);
  return isUUID(given) ? (given as string).toLowerCase() : randomUUID();
});
