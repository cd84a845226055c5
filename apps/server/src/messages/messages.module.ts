import { Module } from '@nestjs/common';
import { BeaconModule } from '../beacon/beacon.module.js';
import { InternetModule } from '../internet/internet.module.js';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { ProofModule } from '../proof/proof.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { AutomatonService } from './automaton.service.js';
import { MessageSender } from './message-sender.js';
import { MessageStore } from './message-store.js';
import { MessagesController } from './messages.controller.js';
import { MessagesService } from './messages.service.js';

@Module({
  imports: [BeaconModule, InternetModule, LinksModule, OperatorModule, ProofModule, TransmittingModule],
  controllers: [MessagesController],
  providers: [MessageSender, MessageStore, MessagesService, AutomatonService],
  exports: [MessagesService],
})
export class MessagesModule {}
