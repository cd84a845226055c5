import { Global, Module } from '@nestjs/common';
import { LiveGateway } from './live.gateway.js';
import { LiveService } from './live.service.js';

/** The event stream to the pages. It knows no subject: others publish into it. */
@Global()
@Module({ providers: [LiveService, LiveGateway], exports: [LiveService] })
export class LiveModule {}
