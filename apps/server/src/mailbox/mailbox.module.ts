import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { RemovalsModule } from '../removals/removals.module.js';
import { SessionsModule } from '../sessions/sessions.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { MailboxController } from './mailbox.controller.js';
import { MailboxService } from './mailbox.service.js';
import { MailboxStore } from './mailbox-store.js';

@Module({
  imports: [LinksModule, OperatorModule, RemovalsModule, SessionsModule, TransmittingModule],
  controllers: [MailboxController],
  providers: [MailboxService, MailboxStore],
})
export class MailboxModule {}
