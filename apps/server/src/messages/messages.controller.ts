import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import {
  MessageSettings,
  ReadUpTo,
  WriteMessage,
  type MessageSettingsView,
  type MessagesView,
  type OutgoingView,
} from '@mistpeak/contract/messages';
import { CommandId } from '../commands/command-id.js';
import { MessagesService } from './messages.service.js';

@Controller('messages')
export class MessagesController {
  constructor(private readonly messages: MessagesService) {}

  @Get()
  view(): MessagesView {
    return this.messages.view();
  }

  @Post()
  write(@Body() message: WriteMessage, @CommandId() id: string): Promise<OutgoingView> {
    return this.messages.write(id, message);
  }

  @Post(':id/cancel')
  @HttpCode(200)
  cancel(@Param('id', ParseUUIDPipe) id: string): OutgoingView {
    return this.messages.cancel(id);
  }

  @Post(':id/again')
  @HttpCode(200)
  again(@Param('id', ParseUUIDPipe) id: string): OutgoingView {
    return this.messages.again(id);
  }

  @Put('settings')
  choose(@Body() settings: MessageSettings): Promise<MessageSettingsView> {
    return this.messages.choose(settings);
  }

  @Put('read')
  @HttpCode(204)
  read(@Body() upTo: ReadUpTo): Promise<void> {
    return this.messages.read(upTo);
  }
}
