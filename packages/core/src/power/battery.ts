/** What a bank is made of. */
export const CHEMISTRIES = ['lead-acid', 'AGM', 'LiFePO4', 'Li-ion'] as const;
export type Chemistry = (typeof CHEMISTRIES)[number];

/** ampHours: as rated, for lead at the rate of twenty hours. cells: in series; six of lead make 12 V. */
export interface Bank {
  readonly chemistry: Chemistry;
  readonly ampHours: number;
  readonly cells: number;
}

interface Nature {
  readonly cellsOf12V: number;
  /** Volts of a rested cell and its charge, 0–1, rising. */
  readonly curve: readonly (readonly [volts: number, charge: number])[];
  /** Between these charges the voltage hardly changes, and tells nothing. */
  readonly plateau?: readonly [from: number, to: number];
  /** Hours without load and charger until the voltage is that of a rested cell. */
  readonly restHours: number;
  /** The charge below which it should not be taken. */
  readonly floor: number;
  /** By how much a current above the rated one takes more than its share (Peukert, 1897): the exponent. */
  readonly peukert: number;
  /** Of what is charged so much can be taken again. */
  readonly chargeEfficiency: number;
  /** Volts of a cell while it gives. */
  readonly nominal: number;
}

/**
 * Common practice, no source, where nothing else is said. Lead-acid: 12.7 V full, 12.4 V three quarters, 12.2 V half, 12.0 V a
 * quarter, 11.9 V empty, of six cells.
 */
export const NATURES: Readonly<Record<Chemistry, Nature>> = {
  'lead-acid': {
    cellsOf12V: 6,
    curve: perCell(6, [
      [11.9, 0],
      [12.0, 0.25],
      [12.2, 0.5],
      [12.4, 0.75],
      [12.7, 1],
    ]),
    restHours: 4,
    floor: 0.5,
    peukert: 1.2,
    chargeEfficiency: 0.85,
    nominal: 2,
  },
  AGM: {
    cellsOf12V: 6,
    curve: perCell(6, [
      [11.8, 0],
      [12.0, 0.25],
      [12.3, 0.5],
      [12.55, 0.75],
      [12.85, 1],
    ]),
    restHours: 4,
    floor: 0.5,
    peukert: 1.1,
    chargeEfficiency: 0.9,
    nominal: 2,
  },
  LiFePO4: {
    cellsOf12V: 4,
    curve: [
      [2.5, 0],
      [3.0, 0.09],
      [3.2, 0.17],
      [3.225, 0.2],
      [3.33, 0.95],
      [3.4, 1],
    ],
    plateau: [0.2, 0.95],
    restHours: 1,
    floor: 0.1,
    peukert: 1,
    chargeEfficiency: 0.97,
    nominal: 3.2,
  },
  'Li-ion': {
    cellsOf12V: 3,
    curve: [
      [3.0, 0],
      [3.45, 0.05],
      [3.6, 0.15],
      [3.7, 0.35],
      [3.8, 0.55],
      [3.9, 0.7],
      [4.0, 0.82],
      [4.1, 0.92],
      [4.2, 1],
    ],
    restHours: 1,
    floor: 0.1,
    peukert: 1,
    chargeEfficiency: 0.97,
    nominal: 3.6,
  },
};

function perCell(cells: number, curve: readonly (readonly [number, number])[]): [number, number][] {
  return curve.map(([volts, charge]) => [volts / cells, charge]);
}

/** A cell that shows so much more than a full one is being charged, or is another kind of cell. */
const OVER_V = 0.04;
/** Half of what a reading and its table are trusted to, as charge. */
const SPREAD = 0.08;

/** What a voltage tells: the charge with its spread, a range that it lies in, or why it tells nothing. */
export type ChargeReading =
  | { readonly kind: 'charge'; readonly charge: number; readonly spread: number }
  | { readonly kind: 'between'; readonly from: number; readonly to: number; readonly why: string }
  | { readonly kind: 'nothing'; readonly why: string };

/** restedHours: since something was drawn or charged last. A loaded battery's voltage is refused: it tells of the load. */
export function chargeByVoltage(
  { chemistry, cells }: Pick<Bank, 'chemistry' | 'cells'>,
  volts: number,
  restedHours: number,
): ChargeReading {
  const { curve, plateau, restHours } = NATURES[chemistry];
  if (restedHours < restHours)
    return {
      kind: 'nothing',
      why: `a battery that gives or is charged shows another voltage than its charge: measure it after ${restHours} h without either`,
    };
  const cell = volts / cells;
  const [lowest, highest] = [curve[0] as [number, number], curve.at(-1) as [number, number]];
  if (cell > highest[0] + OVER_V)
    return {
      kind: 'nothing',
      why: `${volts} V is more than ${cells} rested ${cells === 1 ? 'cell' : 'cells'} of ${chemistry} can show: is it being charged, or of another kind?`,
    };
  if (cell < lowest[0])
    return {
      kind: 'nothing',
      why: `${volts} V is less than an empty one shows: it is of another kind, has another number of cells, or is damaged`,
    };
  const charge = alongCurve(curve, cell);
  if (plateau && charge > plateau[0] && charge < plateau[1])
    return {
      kind: 'between',
      from: plateau[0],
      to: plateau[1],
      why: 'between these charges its voltage hardly changes: count the ampere-hours instead',
    };
  return { kind: 'charge', charge, spread: SPREAD };
}

/** Straight between the points; at the ends the last value. */
function alongCurve(curve: Nature['curve'], volts: number): number {
  const above = curve.findIndex(([at]) => at >= volts);
  if (above === -1) return 1;
  const [highV, high] = curve[above] as [number, number];
  const [lowV, low] = curve[above - 1] ?? [highV, high];
  return highV === lowV ? high : low + ((high - low) * (volts - lowV)) / (highV - lowV);
}

/** By a meter in the line: what has been taken since it was full. */
export function chargeByCount({ ampHours }: Pick<Bank, 'ampHours'>, takenAh: number): ChargeReading {
  const charge = 1 - takenAh / ampHours;
  if (charge < -SPREAD)
    return { kind: 'nothing', why: `${takenAh} Ah are more than the whole bank of ${ampHours} Ah holds` };
  // The meter is exact, the capacity of a bank that has aged is not.
  return { kind: 'charge', charge: Math.max(0, Math.min(1, charge)), spread: SPREAD / 2 };
}

/** What a USB supply is worth: its milliampere-hours count its cells at 3.7 V, and its converter takes its part. */
const USB_CELL_V = 3.7;
const USB_EFFICIENCY = 0.85;

/** Watt-hours at its socket, of what its label tells in mAh (common practice, no source). */
export const usbWattHours = (milliampHours: number): number =>
  (milliampHours / 1000) * USB_CELL_V * USB_EFFICIENCY;
