import 'reflect-metadata';
import type { CutAsked, PowerCut } from '@mistpeak/core/departure/power-cut';
import { IsBoolean, MaxLength } from 'class-validator';

export class TickCheck {
  @MaxLength(40)
  id!: string;

  @IsBoolean()
  isDone!: boolean;
}

/** What of the computer can be seen, and what the operator has ticked. */
export interface DepartureView {
  /** By check: when it was done, ms since 1970. */
  readonly done: Readonly<Record<string, number>>;
  readonly freeGb?: number;
  readonly startsByItself: boolean;
  /** The plug is to be pulled; nothing has come up since. */
  readonly asked?: CutAsked;
  readonly cut?: PowerCut;
}
