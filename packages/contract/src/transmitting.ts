import 'reflect-metadata';
import { IsBoolean, IsOptional } from 'class-validator';
import { IsCallSign } from './validators.js';

/** Arming is deliberate: the operator names the call in force. */
export class ArmLink {
  @IsCallSign()
  call!: string;

  /** It may take the place of another call that is in force now. */
  @IsOptional()
  @IsBoolean()
  instead?: boolean;
}
