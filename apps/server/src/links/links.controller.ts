import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Res,
} from '@nestjs/common';
import {
  LinkSettings,
  PortListening,
  type LinkView,
  type PortListeningView,
  type PortView,
} from '@mistpeak/contract/link';
import type { Response } from 'express';
import { listSoundCards, type SoundDevices } from '../adapters/sound/alsa.js';
import { listPorts } from '../adapters/serial-port.js';
import { DoneEvenLate } from '../commands/done-even-late.js';
import { CommandId } from '../commands/command-id.js';
import { WorksWithoutDatabase } from '../database/without-database.guard.js';
import { LinksService } from './links.service.js';
import { PortFinder } from './port-finder.js';

@Controller('links')
export class LinksController {
  constructor(
    private readonly links: LinksService,
    private readonly finder: PortFinder,
  ) {}

  @Get()
  list(): LinkView[] {
    return this.links.views();
  }

  /** Ends when a voice is known, at the latest after the opening limit and the listening time. */
  @Post('ports/listening')
  @HttpCode(200)
  listen(
    @Body() wanted: PortListening,
    @Res({ passthrough: true }) response: Response,
  ): Promise<PortListeningView> {
    const left = new AbortController();
    response.on('close', () => left.abort());
    return this.finder.listen(wanted, left.signal);
  }

  @Get('ports')
  ports(): Promise<PortView[]> {
    return listPorts();
  }

  @Get('sound-devices')
  soundDevices(): Promise<SoundDevices> {
    return listSoundCards();
  }

  @Post()
  add(@Body() settings: LinkSettings, @CommandId() id: string): Promise<LinkView> {
    return this.links.add(settings, id);
  }

  @Put(':id')
  change(@Param('id', ParseUUIDPipe) id: string, @Body() settings: LinkSettings): Promise<LinkView> {
    return this.links.change(id, settings);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.links.remove(id);
  }

  @Post(':id/open')
  @HttpCode(200)
  open(@Param('id', ParseUUIDPipe) id: string): Promise<LinkView> {
    return this.links.open(id);
  }

  @WorksWithoutDatabase()
  @DoneEvenLate()
  @Post(':id/close')
  @HttpCode(200)
  close(@Param('id', ParseUUIDPipe) id: string): Promise<LinkView> {
    return this.links.close(id);
  }
}
