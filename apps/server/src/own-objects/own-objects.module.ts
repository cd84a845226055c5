import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { OwnObjectsController } from './own-objects.controller.js';
import { OwnObjectsService } from './own-objects.service.js';

@Module({
  imports: [LinksModule, OperatorModule, TransmittingModule],
  controllers: [OwnObjectsController],
  providers: [OwnObjectsService],
})
export class OwnObjectsModule {}
