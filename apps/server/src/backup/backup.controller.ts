import {
  Body,
  Controller,
  Get,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Req,
  StreamableFile,
} from '@nestjs/common';
import type { Request } from 'express';
import {
  BACKUP_TYPE,
  OrderBackup,
  RestoreBackup,
  type BackupSummary,
  type BackupTicket,
  type RestoredView,
} from '@mistpeak/contract/backup';
import { ProblemException } from '../problems/problem.js';
import { BackupService } from './backup.service.js';

/** The answer has left before the server ends. */
const ANSWER_MS = 500;

@Controller('backup')
export class BackupController {
  constructor(private readonly backup: BackupService) {}

  @Post()
  @HttpCode(200)
  order(@Body() order: OrderBackup): BackupTicket {
    return { ticket: this.backup.order(order) };
  }

  @Get(':ticket')
  fetch(@Param('ticket', ParseUUIDPipe) ticket: string): StreamableFile {
    const file = this.backup.fetch(ticket);
    return new StreamableFile(file, {
      type: BACKUP_TYPE,
      disposition: 'attachment; filename="mistpeak.backup"',
    });
  }

  @Post('file')
  @HttpCode(200)
  take(@Req() request: Request): Promise<BackupSummary> {
    if (!request.is(BACKUP_TYPE))
      throw new ProblemException('field-refused', { file: 'it is no backup of Mistpeak' });
    return this.backup.take(request);
  }

  @Post('restore')
  @HttpCode(200)
  async restore(@Body() order: RestoreBackup): Promise<RestoredView> {
    const restored = await this.backup.restore(order);
    setTimeout(() => this.backup.startAgain(), ANSWER_MS);
    return restored;
  }
}
