import { Global, Module } from '@nestjs/common';
import { RemovalsController } from './removals.controller.js';
import { RemovalsService } from './removals.service.js';

/** The minute in which what was removed can be brought back. It knows no subject: those that remove bring what is to be done. */
@Global()
@Module({ controllers: [RemovalsController], providers: [RemovalsService], exports: [RemovalsService] })
export class RemovalsModule {}
