import { IsBoolean, IsIn, IsNotEmpty, MaxLength } from 'class-validator';
import { PURPOSES, type Purpose } from '@mistpeak/core/proof/ladder';

/** The chain of one link as the operator names it, and what it is for. */
export class ChainSettings {
  @IsIn(Object.keys(PURPOSES), { message: 'choose a purpose' })
  purpose!: Purpose;

  @IsNotEmpty({ message: 'name the radio by what it can do' })
  @MaxLength(60, { message: 'at most 60 characters' })
  radio!: string;

  @IsNotEmpty({ message: 'name the way between radio and TNC' })
  @MaxLength(60, { message: 'at most 60 characters' })
  cable!: string;

  @IsNotEmpty({ message: 'name the computer' })
  @MaxLength(60, { message: 'at most 60 characters' })
  host!: string;

  /** Whoever moves must be heard anew after half an hour. */
  @IsBoolean()
  isMoving!: boolean;
}

export interface ChainView extends ChainSettings {
  readonly linkId: string;
}

/** What a chain is taken for until it is named. */
export const UNNAMED_CHAIN: ChainSettings = {
  purpose: 'beacon',
  radio: 'Radio',
  cable: 'cable',
  host: 'This computer',
  isMoving: false,
};
