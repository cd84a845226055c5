import { randomUUID } from 'node:crypto';
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
  Query,
  Req,
  Res,
  UseGuards,
} from '@nestjs/common';
import {
  BOXES,
  KeepLetter,
  MarkRead,
  MoveMessage,
  WeighLetter,
  type AddressEntry,
  type Box,
  type MailMessageView,
  type MailRow,
  type WeightView,
} from '@mistpeak/contract/mail';
import { OrderSelfTest, type SelfTestView } from '@mistpeak/contract/mail-session';
import type { Request, Response } from 'express';
import { CommandId } from '../commands/command-id.js';
import { ProblemException } from '../problems/problem.js';
import { MailBoxService } from './box.service.js';
import { MailReaders } from './readers.guard.js';
import { MailScales } from './weigh.service.js';
import { MailSelfTests } from './self-tests.service.js';

const boxOf = (text: string | undefined): Box | undefined => BOXES.find((box) => box === text);

@Controller('mail')
@UseGuards(MailReaders)
export class MailController {
  constructor(
    private readonly boxes: MailBoxService,
    private readonly scales: MailScales,
    private readonly selfTests: MailSelfTests,
  ) {}

  /** before: ms since 1970, for the page after the last one shown. */
  @Get('messages')
  list(
    @Query('box') box?: string,
    @Query('folder') folder?: string,
    @Query('words') words?: string,
    @Query('before') before?: string,
  ): Promise<MailRow[]> {
    const beforeMs = before === undefined || !/^\d{1,15}$/.test(before) ? undefined : Number(before);
    return this.boxes.list(boxOf(box), {
      folder: folder === '' ? undefined : folder,
      words: words ?? '',
      before: beforeMs,
    });
  }

  @Get('addresses')
  addresses(): Promise<AddressEntry[]> {
    return this.scales.addresses();
  }

  @Get('messages/:id')
  one(@Param('id', ParseUUIDPipe) id: string): Promise<MailMessageView> {
    return this.boxes.one(id);
  }

  @Get('messages/:id/files/:at')
  async file(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('at', ParseIntPipe) at: number,
    @Res() response: Response,
  ): Promise<void> {
    const { name, octets } = await this.boxes.file(id, at);
    // Whatever it is: it is kept as a file and never shown as a page.
    response.attachment(name).type('application/octet-stream').send(Buffer.from(octets));
  }

  @Get('messages/:id/eml')
  async eml(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    response
      .attachment('letter.eml')
      .type('message/rfc822')
      .send(await this.boxes.eml(id));
  }

  @Get('export')
  async mbox(
    @Query('box') box: string | undefined,
    @Query('folder') folder: string | undefined,
    @Res() response: Response,
  ): Promise<void> {
    const chosen = boxOf(box);
    if (!chosen) throw new ProblemException('not-found');
    response
      .attachment(`${chosen}.mbox`)
      .type('application/mbox')
      .send(await this.boxes.mbox(chosen, folder));
  }

  @Post('import')
  @HttpCode(200)
  import(
    @Req() request: Request,
    @Query('folder') folder?: string,
  ): Promise<{ taken: number; known: number; unreadable: number }> {
    const octets: unknown = request.body;
    if (!Buffer.isBuffer(octets) || octets.length === 0)
      throw new ProblemException('field-refused', { file: 'choose an .eml or mbox file' });
    return this.boxes.importInto(
      (folder ?? '').trim().slice(0, 40) || 'Imported',
      new Uint8Array(octets),
      randomUUID,
    );
  }

  @Post('messages')
  write(@Body() letter: KeepLetter, @CommandId() id: string): Promise<MailRow> {
    if (letter.box === 'outbox') this.scales.refuseTooHeavy(letter);
    return this.boxes.write(id, letter);
  }

  @Put('messages/:id')
  rewrite(@Param('id', ParseUUIDPipe) id: string, @Body() letter: KeepLetter): Promise<MailRow> {
    if (letter.box === 'outbox') this.scales.refuseTooHeavy(letter);
    return this.boxes.rewrite(id, letter);
  }

  @Post('messages/:id/move')
  @HttpCode(200)
  move(@Param('id', ParseUUIDPipe) id: string, @Body() where: MoveMessage): Promise<MailRow> {
    return this.boxes.move(id, where);
  }

  @Put('messages/:id/read')
  read(@Param('id', ParseUUIDPipe) id: string, @Body() { isRead }: MarkRead): Promise<MailRow> {
    return this.boxes.markRead(id, isRead);
  }

  @Delete('messages/:id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.boxes.remove(id);
  }

  @Post('weigh')
  @HttpCode(200)
  weigh(@Body() letter: WeighLetter): Promise<WeightView> {
    return this.scales.weigh(letter);
  }

  @Post('self-tests')
  selfTest(@Body() { chain }: OrderSelfTest, @CommandId() id: string): Promise<SelfTestView> {
    return this.selfTests.order(id, chain);
  }
}
