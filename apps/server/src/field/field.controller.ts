import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { FieldSettings, NewReading, type FieldView } from '@mistpeak/contract/field';
import { CommandId } from '../commands/command-id.js';
import { FieldService } from './field.service.js';

@Controller('field')
export class FieldController {
  constructor(private readonly field: FieldService) {}

  @Get()
  view(): FieldView {
    return this.field.view();
  }

  @Put()
  save(@Body() settings: FieldSettings): Promise<FieldView> {
    return this.field.save(settings);
  }

  @Post('readings')
  keep(@Body() reading: NewReading, @CommandId() id: string): Promise<FieldView> {
    return this.field.keep(id, reading);
  }

  @Delete('readings/:id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.field.remove(id);
  }
}
