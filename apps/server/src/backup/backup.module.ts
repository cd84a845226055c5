import { Module } from '@nestjs/common';
import { MailModule } from '../mail/mail.module.js';
import { BackupController } from './backup.controller.js';
import { BackupService } from './backup.service.js';

@Module({ imports: [MailModule], controllers: [BackupController], providers: [BackupService] })
export class BackupModule {}
