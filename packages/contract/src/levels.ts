import 'reflect-metadata';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';

export const LEVEL_CHECKS = [
  'receive',
  'cable or speaker',
  'transmit',
  'sweep',
  'vox timing',
  'keying tone',
  'radio was off',
] as const;
export type LevelCheck = (typeof LEVEL_CHECKS)[number];

/** What a check came to, as it was told to the operator. */
export class NewLevelResult {
  @IsOptional()
  @IsUUID(undefined, { message: 'choose a link' })
  linkId?: string;

  @IsIn(LEVEL_CHECKS, { message: 'choose a check' })
  check!: LevelCheck;

  @MaxLength(600, { message: 'at most 600 characters' })
  words!: string;

  @MaxLength(300, { message: 'at most 300 characters' })
  number!: string;

  @MaxLength(800, { message: 'at most 800 characters' })
  turn!: string;

  /** Only of a receive check. */
  @IsOptional()
  @IsBoolean({ message: 'in the window, or not' })
  isInWindow?: boolean;

  /** Of the packets, dBFS; of a transmit check the level that is advised. */
  @IsOptional()
  @IsNumber({}, { message: 'a level is a number' })
  @Min(-200, { message: 'a level is a number' })
  @Max(20, { message: 'a level is a number' })
  levelDbfs?: number;
}

export interface LevelResult extends NewLevelResult {
  readonly id: string;
  readonly atMs: number;
}

/** A packet of one's own, so that a second receiver can judge it. It bears the call of whoever armed the link. */
export class SendTestPacket {
  @IsUUID(undefined, { message: 'choose a link' })
  linkId!: string;

  @IsInt({ message: 'tests are counted from 1 to 99' })
  @Min(1, { message: 'tests are counted from 1 to 99' })
  @Max(99, { message: 'tests are counted from 1 to 99' })
  number!: number;

  @Matches(/^[\x20-\x7e]{0,40}$/, { message: 'at most 40 plain characters' })
  text!: string;

  /** RMS of what is sent from now on by a sound card of the server, dBFS. */
  @IsOptional()
  @IsNumber({}, { message: 'a level is −40 to 0 dBFS' })
  @Min(-40, { message: 'a level is −40 to 0 dBFS' })
  @Max(0, { message: 'a level is −40 to 0 dBFS' })
  levelDbfs?: number;
}
