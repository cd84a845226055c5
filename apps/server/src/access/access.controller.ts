import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  ParseEnumPipe,
  Post,
  Put,
  Req,
  Res,
} from '@nestjs/common';
import { LoginAttempt, PasswordSetting, type AccessView, type Role } from '@mistpeak/contract/access';
import type { Request, Response } from 'express';
import { AccessService, cookieName, LOGIN_LASTS_MS } from './access.service.js';
import { OpenToAll } from './access.guard.js';

const ROLE = { operator: 'operator', watcher: 'watcher' } as const;

@Controller('access')
export class AccessController {
  constructor(private readonly access: AccessService) {}

  @OpenToAll()
  @Get()
  view(@Req() request: Request): Promise<AccessView> {
    return this.access.view(request);
  }

  @OpenToAll()
  @Post('login')
  @HttpCode(204)
  async logIn(
    @Body() { password }: LoginAttempt,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    const token = await this.access.logIn(password);
    response.cookie(cookieName(request), token, {
      httpOnly: true,
      sameSite: 'strict',
      secure: request.secure,
      maxAge: LOGIN_LASTS_MS,
    });
  }

  @OpenToAll()
  @Post('logout')
  @HttpCode(204)
  async logOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.access.logOut(request);
    response.clearCookie(cookieName(request));
  }

  @Put('passwords/:role')
  @HttpCode(204)
  setPassword(
    @Param('role', new ParseEnumPipe(ROLE)) role: Role,
    @Body() { password }: PasswordSetting,
  ): Promise<void> {
    return this.access.setPassword(role, password);
  }

  @Delete('passwords/:role')
  @HttpCode(204)
  forgetPassword(@Param('role', new ParseEnumPipe(ROLE)) role: Role): Promise<void> {
    return this.access.forgetPassword(role);
  }
}
