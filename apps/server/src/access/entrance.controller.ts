import { Controller, Get, Query, Req, Res } from '@nestjs/common';
import type { Request, Response } from 'express';
import { AccessService } from './access.service.js';
import { giveCookie } from './cookie.js';

/** The address that the launcher prints: the first who opens it is the operator at this machine. */
@Controller('enter')
export class EntranceController {
  constructor(private readonly access: AccessService) {}

  @Get()
  async enter(
    @Query('token') token: unknown,
    @Req() request: Request,
    @Res() response: Response,
  ): Promise<void> {
    const cookie = typeof token === 'string' ? await this.access.enter(token, request) : undefined;
    if (cookie !== undefined) giveCookie(cookie, request, response);
    // The token is used up; no log and no history need keep it, and no other page learns it.
    response.set({ 'cache-control': 'no-store', 'referrer-policy': 'no-referrer' });
    response.redirect(303, cookie === undefined ? '/?entrance=used' : '/');
  }
}
