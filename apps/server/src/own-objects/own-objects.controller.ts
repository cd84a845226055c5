import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { OwnObjectSettings, type OwnObjectView } from '@mistpeak/contract/own-objects';
import { CommandId } from '../commands/command-id.js';
import { OwnObjectsService } from './own-objects.service.js';

@Controller('own-objects')
export class OwnObjectsController {
  constructor(private readonly objects: OwnObjectsService) {}

  @Get()
  views(): readonly OwnObjectView[] {
    return this.objects.views();
  }

  @Post()
  make(@Body() settings: OwnObjectSettings, @CommandId() id: string): Promise<OwnObjectView> {
    return this.objects.put(id, settings);
  }

  @Put(':id')
  change(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() settings: OwnObjectSettings,
  ): Promise<OwnObjectView> {
    return this.objects.put(id, settings);
  }

  /** Tells everybody that it is gone. */
  @Post(':id/kill')
  @HttpCode(200)
  kill(@Param('id', ParseUUIDPipe) id: string): OwnObjectView {
    return this.objects.kill(id);
  }

  @Delete(':id')
  @HttpCode(204)
  forget(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.objects.forget(id);
  }
}
