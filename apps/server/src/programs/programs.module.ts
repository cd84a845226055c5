import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { ProgramsController } from './programs.controller.js';
import { ProgramsService } from './programs.service.js';

@Module({ imports: [LinksModule], controllers: [ProgramsController], providers: [ProgramsService] })
export class ProgramsModule {}
