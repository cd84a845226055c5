/** Looked up once: tables are made of it. */
const { cos, sin, abs, PI } = Math;

/** Roll-off of the pulse: its band ends at (1 + 0.5)/2 of the bit rate, 7.2 kHz of 9600 baud (common practice, no source). */
const ROLL_OFF = 0.5;
/** Bits on either side over which it is kept. */
export const PULSE_REACH = 4;

/** Mean power of a row of random bits of ±1 with this roll-off: 1 − 0.5/4 (Proakis, spectrum of linearly modulated signals). */
export const MEAN_POWER = 1 - ROLL_OFF / 4;

/** Raised cosine: 1 at its own bit and 0 at every other (Nyquist 1928; Proakis, "Design of band-limited signals"). */
export function raisedCosine(bits: number): number {
  if (abs(bits) < 1e-9) return 1;
  const edge = 2 * ROLL_OFF * bits;
  const sinc = sin(PI * bits) / (PI * bits);
  if (abs(abs(edge) - 1) < 1e-6) return (sinc * PI) / 4;
  return (sinc * cos(PI * ROLL_OFF * bits)) / (1 - edge * edge);
}
