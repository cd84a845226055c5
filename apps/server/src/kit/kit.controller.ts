import { Body, Controller, Delete, Get, Header, HttpCode, Param, Post, Put } from '@nestjs/common';
import type { Item } from '@mistpeak/core/kit/item';
import { formatKit } from '@mistpeak/core/kit/kit-file';
import { ItemSettings, KitImport } from '@mistpeak/contract/kit';
import { CommandId } from '../commands/command-id.js';
import { KitService } from './kit.service.js';

@Controller('kit')
export class KitController {
  constructor(private readonly kit: KitService) {}

  /** The kit as a file, docs/kit.md. */
  @Get()
  @Header('content-type', 'application/json')
  file(): string {
    return formatKit(this.kit.items());
  }

  @Put()
  replace(@Body() { file }: KitImport): Promise<readonly Item[]> {
    return this.kit.replace(file);
  }

  @Post('items')
  add(@Body() { item }: ItemSettings, @CommandId() id: string): Promise<Item> {
    return this.kit.add(item, id);
  }

  @Put('items/:id')
  change(@Param('id') id: string, @Body() { item, version }: ItemSettings): Promise<Item> {
    return this.kit.change(id, item, version);
  }

  @Delete('items/:id')
  @HttpCode(204)
  remove(@Param('id') id: string): Promise<void> {
    return this.kit.remove(id);
  }
}
