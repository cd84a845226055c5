import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  Headers,
  HttpCode,
  Param,
  ParseEnumPipe,
  ParseUUIDPipe,
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
  type DeviceView,
  type EntranceView,
  type PairingView,
  type Role,
} from '@mistpeak/contract/access';
import type { Request, Response } from 'express';
import { AccessService } from './access.service.js';
import { giveCookie } from './cookie.js';
import { cookieName } from './logins.js';
import { LanService } from '../lan/lan.service.js';
import { ProblemException } from '../problems/problem.js';

const ROLE = { operator: 'operator', watcher: 'watcher' } as const;

@Controller('access')
export class AccessController {
  constructor(
    private readonly access: AccessService,
    private readonly lan: LanService,
  ) {}

  @Get()
  view(@Req() request: Request): AccessView {
    return this.access.view(request);
  }

  @Post('login')
  @HttpCode(204)
  async logIn(
    @Body() { password }: LoginAttempt,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    giveCookie(await this.access.logIn(password, request), request, response);
  }

  /** For the operator: a code that lets one device in as that role. */
  @Post('pairings')
  makePairing(@Body() { role, name }: PairingWish): PairingView {
    return this.access.makePairing(role, name ?? '');
  }

  /** For the launcher, which knows the secret of this start. */
  @Post('entrances')
  makeEntrance(
    @Headers('x-launcher-secret') secret: string | undefined,
    @Req() request: Request,
  ): EntranceView {
    return { token: this.access.makeEntrance(secret ?? '', request) };
  }

  @Get('devices')
  devices(@Req() request: Request): DeviceView[] {
    return this.access.devices(request);
  }

  @Delete('devices/:id')
  @HttpCode(204)
  endDevice(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.access.endDevice(id);
  }

  /** Authority, pairings and logins of other devices are gone after this. */
  @Post('close-house')
  @HttpCode(204)
  closeHouse(): Promise<void> {
    return this.access.closeHouse();
  }

  @Post('pair')
  @HttpCode(204)
  async pair(
    @Body() { code }: PairingCode,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    giveCookie(await this.access.pair(code, request), request, response);
  }

  /** The certificate of this installation’s authority, for a device that is to trust it. */
  @Get('authority')
  @Header('content-type', 'application/x-x509-ca-cert')
  @Header('content-disposition', 'attachment; filename="mistpeak-authority.crt"')
  authority(): string {
    const authority = this.lan.authority();
    if (!authority) throw new ProblemException('not-on-the-network');
    return authority.authority;
  }

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
