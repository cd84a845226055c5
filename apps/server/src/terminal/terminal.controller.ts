import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import type { SessionView } from '@mistpeak/contract/sessions';
import {
  OrderVisit,
  SendFile,
  TerminalSettings,
  TypeToConsole,
  type ConsoleView,
  type TerminalSettingsView,
  type VisitView,
} from '@mistpeak/contract/terminal';
import { CommandId } from '../commands/command-id.js';
import { ConsoleService, type ConsoleSaid } from './console.service.js';
import { FilesService } from './files.service.js';
import { TerminalService } from './terminal.service.js';
import { VisitsService } from './visits.service.js';

@Controller('terminal')
export class TerminalController {
  constructor(
    private readonly console: ConsoleService,
    private readonly files: FilesService,
    private readonly terminal: TerminalService,
    private readonly visits: VisitsService,
  ) {}

  @Put('settings')
  choose(@Body() settings: TerminalSettings): Promise<TerminalSettingsView> {
    return this.terminal.choose(settings);
  }

  @Post('visits')
  visit(@Body() order: OrderVisit, @CommandId() id: string): VisitView {
    return this.visits.begin(id, order);
  }

  @Post('visits/:id/stop')
  @HttpCode(200)
  stop(@Param('id', ParseUUIDPipe) id: string): VisitView {
    return this.visits.stop(id);
  }

  @Post('sessions/:id/file')
  @HttpCode(200)
  send(@Param('id', ParseUUIDPipe) id: string, @Body() file: SendFile): SessionView {
    return this.files.send(id, file);
  }

  @Post('sessions/:id/receive')
  @HttpCode(200)
  receive(@Param('id', ParseUUIDPipe) id: string): SessionView {
    return this.files.receive(id);
  }

  @Delete('sessions/:id/file')
  cancel(@Param('id', ParseUUIDPipe) id: string): SessionView {
    return this.files.cancel(id);
  }

  @Put('console/:linkId')
  openConsole(@Param('linkId', ParseUUIDPipe) linkId: string): Promise<ConsoleView> {
    return this.console.open(linkId);
  }

  @Get('console/:linkId')
  consoleSaid(@Param('linkId', ParseUUIDPipe) linkId: string): readonly ConsoleSaid[] {
    return this.console.said(linkId);
  }

  @Delete('console/:linkId')
  closeConsole(@Param('linkId', ParseUUIDPipe) linkId: string): Promise<ConsoleView> {
    return this.console.close(linkId);
  }

  @Post('console/:linkId/type')
  @HttpCode(200)
  type(
    @Param('linkId', ParseUUIDPipe) linkId: string,
    @Body() { base64 }: TypeToConsole,
  ): Promise<ConsoleView> {
    return this.console.type(linkId, new Uint8Array(Buffer.from(base64, 'base64')));
  }
}
