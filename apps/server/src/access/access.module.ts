import { Global, Module } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { TypeOrmModule } from '@nestjs/typeorm';
import { AccessController } from './access.controller.js';
import { AccessGuard } from './access.guard.js';
import { AccessService } from './access.service.js';
import { LoginEntity, RolePasswordEntity } from './login.entity.js';

@Global()
@Module({
  imports: [TypeOrmModule.forFeature([RolePasswordEntity, LoginEntity])],
  controllers: [AccessController],
  providers: [AccessService, { provide: APP_GUARD, useClass: AccessGuard }],
  exports: [AccessService],
})
export class AccessModule {}
