import { Global, Module } from '@nestjs/common';
import { LanService } from './lan.service.js';

/** The way in from the network, where the operator has opened one. */
@Global()
@Module({ providers: [LanService], exports: [LanService] })
export class LanModule {}
