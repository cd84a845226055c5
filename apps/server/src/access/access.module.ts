import { Global, Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { AccessController } from './access.controller.js';
import { AccessService } from './access.service.js';
import { EntranceController } from './entrance.controller.js';
import { LoginEntity, RolePasswordEntity } from './login.entity.js';
import { Logins } from './logins.js';

@Global()
@Module({
  imports: [TypeOrmModule.forFeature([RolePasswordEntity, LoginEntity])],
  controllers: [AccessController, EntranceController],
  providers: [AccessService, Logins],
  exports: [AccessService, Logins],
})
export class AccessModule {}
