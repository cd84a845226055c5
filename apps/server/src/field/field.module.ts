import { Module } from '@nestjs/common';
import { FieldController } from './field.controller.js';
import { FieldService } from './field.service.js';

@Module({ controllers: [FieldController], providers: [FieldService] })
export class FieldModule {}
