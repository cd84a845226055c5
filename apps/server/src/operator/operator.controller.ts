import { Body, Controller, Get, Put } from '@nestjs/common';
import { OperatorSettings, type OperatorView } from '@mistpeak/contract/operator';
import { OperatorService } from './operator.service.js';

@Controller('operator')
export class OperatorController {
  constructor(private readonly operator: OperatorService) {}

  @Get()
  view(): { operator: OperatorView | null } {
    return { operator: this.operator.view() };
  }

  @Put()
  save(@Body() settings: OperatorSettings): Promise<OperatorView> {
    return this.operator.save(settings);
  }
}
