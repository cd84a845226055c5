/**
 * Two-tone modems. Bell 202 at 1200 baud: mark 1200 Hz, space 2200 Hz. 300 baud on HF: 200 Hz shift, 1600 and 1800 Hz (common
 * practice, no source).
 */
export interface Tones {
  readonly baud: number;
  readonly markHz: number;
  readonly spaceHz: number;
}

/** Scrambled bits straight into the modulator, without tones: 1 + x^12 + x^17 (common practice of 9600 baud packet, no section). */
export interface Baseband {
  readonly baud: number;
  readonly isScrambled: true;
}

export type Modulation = Tones | Baseband;

export const BELL_202: Tones = { baud: 1200, markHz: 1200, spaceHz: 2200 };
export const HF_300: Tones = { baud: 300, markHz: 1600, spaceHz: 1800 };
export const SCRAMBLED_9600: Baseband = { baud: 9600, isScrambled: true };

/** Of a rate on the air, in baud. Throws RangeError for one that has no modem here. */
export function modulationOf(baud: number): Modulation {
  const found = [HF_300, BELL_202, SCRAMBLED_9600].find((one) => one.baud === baud);
  if (!found) throw new RangeError(`there is no modem for ${baud} baud`);
  return found;
}

export const isBaseband = (modulation: Modulation): modulation is Baseband => 'isScrambled' in modulation;

/** Sound cards and files; below, the upper tone does not fit, above is nothing but octets. */
export const LOWEST_RATE_HZ = 8000;
export const HIGHEST_RATE_HZ = 384_000;
/** Of a bit rate without tones: its band reaches to 0.75 of it, and rates of sound cards begin here. */
const LOWEST_BASEBAND_RATE_HZ = 22_050;

export const lowestRateHz = (modulation: Modulation): number =>
  isBaseband(modulation) ? LOWEST_BASEBAND_RATE_HZ : LOWEST_RATE_HZ;

/** Throws RangeError with what is allowed. */
export function checkRate(rateHz: number, modulation: Modulation): void {
  const lowest = lowestRateHz(modulation);
  if (!(rateHz >= lowest && rateHz <= HIGHEST_RATE_HZ))
    throw new RangeError(`a sample rate is ${lowest} to ${HIGHEST_RATE_HZ} Hz`);
}
