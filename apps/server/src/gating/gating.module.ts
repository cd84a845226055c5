import { Module } from '@nestjs/common';
import { InternetModule } from '../internet/internet.module.js';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { FillInService } from './fill-in.service.js';
import { GateService } from './gate.service.js';
import { GatingBook } from './gating-book.js';
import { GatingController } from './gating.controller.js';

@Module({
  imports: [InternetModule, LinksModule, OperatorModule, TransmittingModule],
  controllers: [GatingController],
  providers: [GatingBook, GateService, FillInService],
})
export class GatingModule {}
