import { Global, Module } from '@nestjs/common';
import { TrafficService } from './traffic.service.js';

/** Everywhere at hand: it knows no subject. */
@Global()
@Module({ providers: [TrafficService], exports: [TrafficService] })
export class TrafficModule {}
