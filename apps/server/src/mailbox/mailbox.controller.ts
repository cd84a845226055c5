import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  ParseIntPipe,
  ParseUUIDPipe,
  Post,
  Put,
} from '@nestjs/common';
import { MailboxSettings, WriteLetter, type LetterView, type MailboxView } from '@mistpeak/contract/mailbox';
import { CommandId } from '../commands/command-id.js';
import { MailboxService } from './mailbox.service.js';

@Controller('mailbox')
export class MailboxController {
  constructor(private readonly mailbox: MailboxService) {}

  @Get()
  view(): MailboxView {
    return this.mailbox.view();
  }

  @Put('settings')
  choose(@Body() settings: MailboxSettings): Promise<MailboxView> {
    return this.mailbox.choose(settings);
  }

  @Post('letters')
  write(@Body() letter: WriteLetter, @CommandId() id: string): Promise<LetterView> {
    return this.mailbox.write(id, letter);
  }

  @Put('letters/:number/read')
  noteRead(@Param('number', ParseIntPipe) number: number): Promise<LetterView> {
    return this.mailbox.noteRead(number);
  }

  @Delete('letters/:number')
  @HttpCode(204)
  remove(@Param('number', ParseIntPipe) number: number): Promise<void> {
    return this.mailbox.remove(number);
  }

  @Delete('half/:id')
  @HttpCode(204)
  removeHalf(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.mailbox.removeHalf(id);
  }
}
