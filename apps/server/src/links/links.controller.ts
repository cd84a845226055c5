import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { LinkSettings, type LinkView, type PortView } from '@mistpeak/contract/link';
import { listPorts } from '../adapters/serial-port.js';
import { LinksService } from './links.service.js';

@Controller('links')
export class LinksController {
  constructor(private readonly links: LinksService) {}

  @Get()
  list(): LinkView[] {
    return this.links.views();
  }

  @Get('ports')
  ports(): Promise<PortView[]> {
    return listPorts();
  }

  @Post()
  add(@Body() settings: LinkSettings): Promise<LinkView> {
    return this.links.add(settings);
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

  @Post(':id/close')
  @HttpCode(200)
  close(@Param('id', ParseUUIDPipe) id: string): Promise<LinkView> {
    return this.links.close(id);
  }
}
