import { Module } from '@nestjs/common';
import { OperatorModule } from '../operator/operator.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { InternetController } from './internet.controller.js';
import { InternetService } from './internet.service.js';

@Module({
  imports: [OperatorModule, TransmittingModule],
  controllers: [InternetController],
  providers: [InternetService],
  exports: [InternetService],
})
export class InternetModule {}
