import { Module } from '@nestjs/common';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { DepartureController } from './departure.controller.js';
import { DepartureService } from './departure.service.js';
import { MACHINE, systemMachine } from './machine.js';

@Module({
  controllers: [DepartureController],
  providers: [
    DepartureService,
    {
      provide: MACHINE,
      useFactory: ({ machine }: Configuration) => machine ?? systemMachine,
      inject: [CONFIGURATION],
    },
  ],
  exports: [MACHINE],
})
export class DepartureModule {}
