import 'reflect-metadata';
import type { TimeSource } from '@mistpeak/core/true-time/seen';
import type { WrongStretch } from '@mistpeak/core/true-time/stretches';
import { IsNumber, Max, Min } from 'class-validator';

const MOST_MS = 100 * 366 * 86_400_000;
const OFFSET = { message: 'so many ms, of a hundred years at most' };

/** A device measured the server's clock by its own. */
export class TimeOfDevice {
  /** The device’s time less the server’s, ms. */
  @IsNumber({}, OFFSET)
  @Min(-MOST_MS, OFFSET)
  @Max(MOST_MS, OFFSET)
  offByMs!: number;

  /** Half of the way there and back. */
  @IsNumber({}, OFFSET)
  @Min(0, OFFSET)
  @Max(60_000, OFFSET)
  withinMs!: number;
}

export interface TrueTimeView {
  /** The clock differs from what tells the time better; nothing was decided yet. */
  readonly wrong?: { readonly source: TimeSource; readonly offByMs: number };
  /** So much is added to the computer’s clock, ms; 0: nothing. */
  readonly correctedByMs: number;
  /** What the record holds by a clock that was wrong. */
  readonly stretches: readonly WrongStretch[];
}
