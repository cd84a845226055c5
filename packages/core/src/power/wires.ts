/** Copper at 20 °C, Ω·m (IEC 60028), and what it gains with each degree (from memory). */
const COPPER = 1.724e-8;
const COPPER_PER_DEGREE = 0.00393;

/** mm² of a wire by its American gauge: d = 0.127 mm · 92^((36 − n)/39) (ASTM B258). 0, −1, −2, −3: 1/0 to 4/0. */
export function gaugeArea(gauge: number): number {
  const diameterMm = 0.127 * 92 ** ((36 - gauge) / 39);
  return (Math.PI / 4) * diameterMm ** 2;
}

/** oneWayM: from the battery to the radio; the current runs there and back. */
export interface Run {
  readonly oneWayM: number;
  readonly areaMm2: number;
  readonly amps: number;
}

/** Volts that are lost on both conductors. */
export function voltageDrop({ oneWayM, areaMm2, amps }: Run, temperatureC = 20): number {
  const ohmMetres = COPPER * (1 + COPPER_PER_DEGREE * (temperatureC - 20));
  return (2 * oneWayM * ohmMetres * amps) / (areaMm2 * 1e-6);
}

/** What mobile sets are made for, 13.8 V ± 15 % (common practice): below it they give less, switch off or distort. */
const LEAST_AT_RADIO_V = 11.7;
/** Good practice; more is heat in the wire. */
const GOOD_SHARE = 0.03;

export type DropVerdict = 'good' | 'much' | 'too much';

/** What arrives while it transmits, and what that means. */
export function atTheRadio(
  batteryV: number,
  run: Run,
): { readonly volts: number; readonly verdict: DropVerdict } {
  const drop = voltageDrop(run);
  const volts = batteryV - drop;
  if (volts < LEAST_AT_RADIO_V) return { volts, verdict: 'too much' };
  return { volts, verdict: drop <= GOOD_SHARE * batteryV ? 'good' : 'much' };
}

/** Blade fuses as they are sold, A. */
export const FUSES = [1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40, 60, 80] as const;
/** What a wire of so many mm² may carry for long in free air, A (common practice, the careful side; bundled wires less). */
const CARRIES: readonly (readonly [areaMm2: number, amps: number])[] = [
  [0.5, 5],
  [0.75, 7.5],
  [1, 10],
  [1.5, 15],
  [2.5, 20],
  [4, 30],
  [6, 40],
  [10, 60],
  [16, 80],
  [25, 110],
];
/** A fuse that carries its rating for long blows some day: the load is at most so much of it. */
const LOAD_SHARE = 0.8;

/** Of the next thinner wire in the table; 0: thinner than any of it. */
export function wireRating(areaMm2: number): number {
  return CARRIES.filter(([area]) => area <= areaMm2 * 1.005).at(-1)?.[1] ?? 0;
}

export interface FuseAdvice {
  /** The fuse to put in; undefined: no fuse is above the load and within what the wire carries. */
  readonly fuse: number | undefined;
  readonly wireAmps: number;
  /** The thinnest wire with which a fuse fits, where this one is too thin, mm². */
  readonly wireMm2: number | undefined;
}

/** One at both ends of a long run and one at each outlet, each above the load and not above what its wire carries. */
export function fuseFor(amps: number, areaMm2: number): FuseAdvice {
  const wireAmps = wireRating(areaMm2);
  const wanted = FUSES.find((rating) => rating * LOAD_SHARE >= amps);
  if (wanted !== undefined && wanted <= wireAmps) return { fuse: wanted, wireAmps, wireMm2: undefined };
  const thicker = wanted === undefined ? undefined : CARRIES.find(([, carries]) => carries >= wanted)?.[0];
  return { fuse: undefined, wireAmps, wireMm2: thicker };
}

/** Two voltages measured one after the other, the engine off and the equipment drawing. */
export interface BatteryPair {
  readonly starterV: number;
  readonly equipmentV: number;
  readonly isEngineOff: boolean;
}

/** Joined by a wire two batteries show the same but for what the wire loses. */
const SAME_V = 0.05;
const APART_V = 0.15;
/** Above it something charges. */
const CHARGING_V = 13.2;

export type Isolation =
  | { readonly kind: 'apart' }
  | { readonly kind: 'joined'; readonly why: string }
  | { readonly kind: 'not told'; readonly why: string };

/** Whether the equipment can empty the battery that starts the engine; by what is measured, not by what is believed. */
export function isolationOf({ starterV, equipmentV, isEngineOff }: BatteryPair): Isolation {
  if (!isEngineOff)
    return {
      kind: 'not told',
      why: 'with the engine on an isolator joins them: measure with the engine off',
    };
  if (Math.max(starterV, equipmentV) > CHARGING_V)
    return {
      kind: 'not told',
      why: 'one of them is charged, or has just been: wait, with the radio on, and measure again',
    };
  // Rounded to what a meter shows: 12.70 − 12.65 is 0.05.
  const apart = Math.round(Math.abs(starterV - equipmentV) * 100) / 100;
  if (apart >= APART_V) return { kind: 'apart' };
  return apart <= SAME_V
    ? {
        kind: 'joined',
        why: 'both show the same: joined, or equal by chance. Let the equipment draw for a while and measure again',
      }
    : { kind: 'not told', why: 'the difference is that of a wire: let the equipment draw for a while' };
}
