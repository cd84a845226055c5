import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { SessionsModule } from '../sessions/sessions.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { ConsoleService } from './console.service.js';
import { FilesService } from './files.service.js';
import { TerminalController } from './terminal.controller.js';
import { TerminalService } from './terminal.service.js';
import { VisitsService } from './visits.service.js';

@Module({
  imports: [LinksModule, SessionsModule, TransmittingModule],
  controllers: [TerminalController],
  providers: [ConsoleService, FilesService, TerminalService, VisitsService],
})
export class TerminalModule {}
