import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { ProofModule } from '../proof/proof.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { SessionExport } from './session-export.js';
import { SessionStore } from './session-store.js';
import { SessionsController } from './sessions.controller.js';
import { SessionsService } from './sessions.service.js';

@Module({
  imports: [LinksModule, OperatorModule, ProofModule, TransmittingModule],
  controllers: [SessionsController],
  providers: [SessionExport, SessionStore, SessionsService],
  exports: [SessionStore, SessionsService],
})
export class SessionsModule {}
