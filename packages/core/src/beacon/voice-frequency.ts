import { encodeFrequency, takeFrequency } from '../aprs/frequency.js';
import type { AprsReport, Frequency } from '../aprs/report.js';
import { malformed, type Malformed } from '../bits/malformed.js';
import { wayTo, type Position } from '../geo/position.js';

/** The words of a voice frequency as they stand in a comment, `145.675MHz T094 -060`; nothing for none. */
export function parseVoiceFrequency(text: string): Frequency | Malformed | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  const report: AprsReport = { type: 'position' };
  const rest = takeFrequency(trimmed, report);
  if (!report.frequency)
    return malformed('write it as 145.675MHz, with a tone and a shift if there are any: T094 -060');
  if (rest !== '')
    return malformed(`“${rest}” belongs to no frequency: tone T094, shift -060 in 10 kHz, range R25k`);
  return report.frequency;
}

export const formatVoiceFrequency = (frequency: Frequency): string => encodeFrequency(frequency);

/** When and where it was given. */
export interface FrequencyGiven {
  readonly atMs: number;
  readonly position?: Position;
}

/** An announced frequency goes stale: after an hour, or when one has moved on by 30 km (common practice, no source). */
export const STALE_AFTER_MS = 3_600_000;
export const STALE_AFTER_KM = 30;

export function frequencyStale(
  given: FrequencyGiven,
  nowMs: number,
  position: Position | undefined,
  isMoving: boolean,
): 'an hour old' | 'moved 30 km' | undefined {
  if (given.position && position && wayTo(given.position, position).distanceKm >= STALE_AFTER_KM)
    return 'moved 30 km';
  // Who stays where he is goes on listening.
  return isMoving && nowMs - given.atMs >= STALE_AFTER_MS ? 'an hour old' : undefined;
}
