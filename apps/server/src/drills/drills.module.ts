import { Module } from '@nestjs/common';
import { OperatorModule } from '../operator/operator.module.js';
import { DrillsController } from './drills.controller.js';
import { DrillsService } from './drills.service.js';
import { PracticeEvidence } from './practice-evidence.js';
import { PracticeService } from './practice.service.js';
import { PracticeWorld } from './practice-world.js';

@Module({
  imports: [OperatorModule],
  controllers: [DrillsController],
  providers: [DrillsService, PracticeEvidence, PracticeService, PracticeWorld],
})
export class DrillsModule {}
