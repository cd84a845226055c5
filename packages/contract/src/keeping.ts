import 'reflect-metadata';
import { IsOptional } from 'class-validator';
import { IsIntWithin } from './validators.js';
import { Versioned } from './versioned.js';

/** What of the record is dropped by age; each absent: kept for ever. */
export const KEPT_KINDS = {
  radio: 'heard on radio',
  internet: 'heard on the internet side',
  captures: 'taken from captures',
  scraps: 'what was no frame',
} as const;
export type KeptKind = keyof typeof KEPT_KINDS;

/** Days that each kind is kept. What we sent, and what came back of it, is never dropped. */
export class KeepingSettings extends Versioned {
  @IsOptional()
  @IsIntWithin(1, 3650)
  radio?: number;

  @IsOptional()
  @IsIntWithin(1, 3650)
  internet?: number;

  @IsOptional()
  @IsIntWithin(1, 3650)
  captures?: number;

  @IsOptional()
  @IsIntWithin(1, 3650)
  scraps?: number;
}

export interface KeepingView {
  readonly settings: KeepingSettings & { readonly version: number };
  /** On the disk, with all that finds it. */
  readonly octets: number;
  /** About so many entries. */
  readonly entries: number;
  readonly oldestAtMs?: number;
}
