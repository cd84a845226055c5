import { IsCallSign } from './validators.js';

/** Arming is deliberate: the operator names the call in force. */
export class ArmLink {
  @IsCallSign()
  call!: string;
}
