import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  HttpCode,
  Param,
  ParseEnumPipe,
  Post,
  Put,
  Req,
  Res,
} from '@nestjs/common';
import {
  LoginAttempt,
  PairingCode,
  PairingWish,
  PasswordSetting,
  type AccessView,
  type PairingView,
  type Role,
} from '@mistpeak/contract/access';
import type { Request, Response } from 'express';
import { AccessService, cookieName, LOGIN_LASTS_MS } from './access.service.js';
import { LanService } from '../lan/lan.service.js';
import { ProblemException } from '../problems/problem.js';
import { OpenToAll } from './access.guard.js';

function giveCookie(token: string, request: Request, response: Response): void {
  response.cookie(cookieName(request), token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: request.secure,
    maxAge: LOGIN_LASTS_MS,
  });
}

const ROLE = { operator: 'operator', watcher: 'watcher' } as const;

@Controller('access')
export class AccessController {
  constructor(
    private readonly access: AccessService,
    private readonly lan: LanService,
  ) {}

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
    giveCookie(await this.access.logIn(password), request, response);
  }

  /** For the operator: a code that lets one device in as that role. */
  @Post('pairings')
  makePairing(@Body() { role }: PairingWish): PairingView {
    return this.access.makePairing(role);
  }

  @OpenToAll()
  @Post('pair')
  @HttpCode(204)
  async pair(
    @Body() { code }: PairingCode,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    giveCookie(await this.access.pair(code), request, response);
  }

  /** The certificate of this installation’s authority, for a device that is to trust it. */
  @OpenToAll()
  @Get('authority')
  @Header('content-type', 'application/x-x509-ca-cert')
  @Header('content-disposition', 'attachment; filename="mistpeak-authority.crt"')
  authority(): string {
    const authority = this.lan.authority();
    if (!authority) throw new ProblemException('not-on-the-network');
    return authority.authority;
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
