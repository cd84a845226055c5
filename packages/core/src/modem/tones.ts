/**
 * Two-tone modems. Bell 202 at 1200 baud: mark 1200 Hz, space 2200 Hz. 300 baud on HF: 200 Hz shift, 1600 and 1800 Hz (common
 * practice, no source).
 */
export interface Tones {
  readonly baud: number;
  readonly markHz: number;
  readonly spaceHz: number;
}

export const BELL_202: Tones = { baud: 1200, markHz: 1200, spaceHz: 2200 };
export const HF_300: Tones = { baud: 300, markHz: 1600, spaceHz: 1800 };

/** Sound cards and files; below, the upper tone does not fit, above is nothing but octets. */
export const LOWEST_RATE_HZ = 8000;
export const HIGHEST_RATE_HZ = 384_000;
