/** Who is exposed: whoever comes by, or who works with it and knows. */
export const GROUPS = ['public', 'occupational'] as const;
export type Group = (typeof GROUPS)[number];
/** Whose limits. */
export const RULES = ['FCC', 'ICNIRP'] as const;
export type RuleSet = (typeof RULES)[number];

export interface Station {
  readonly frequencyMHz: number;
  /** What leaves the transmitter while it is keyed, W. */
  readonly powerW: number;
  readonly feedLossDb: number;
  readonly gainDbi: number;
  /** Of the averaging time so much is spent keyed, 0–1. */
  readonly keyedShare: number;
}

export interface Limit {
  /** W/m². */
  readonly density: number;
  readonly averagedMin: number;
}

export interface Exposure {
  readonly limit: Limit;
  /** With reflection by the ground as the published method takes it, m. */
  readonly distanceM: number;
  /** Where all of the reflection adds up, m. */
  readonly worstM: number;
  /** Closer than this the formula does not hold, m. */
  readonly nearFieldM: number;
}

/** From frequency (MHz) on: the limit of each group, W/m². */
type Rows = readonly (readonly [fromMHz: number, Readonly<Record<Group, (mhz: number) => number>>])[];

const flat = (density: number) => (): number => density;

/** 47 CFR 1.1310, table 1: 0.2 mW/cm² is 2 W/m². Below 30 MHz the density of the plane wave that it names. */
const FCC: Rows = [
  [3, { occupational: (mhz) => 9000 / mhz ** 2, public: (mhz) => 1800 / mhz ** 2 }],
  [30, { occupational: flat(10), public: flat(2) }],
  [300, { occupational: (mhz) => mhz / 30, public: (mhz) => mhz / 150 }],
  [1500, { occupational: flat(50), public: flat(10) }],
];
/** ICNIRP 2020, table 5, whole body; below 30 MHz it limits field strengths, not density. */
const ICNIRP: Rows = [
  [30, { occupational: flat(10), public: flat(2) }],
  [400, { occupational: (mhz) => mhz / 40, public: (mhz) => mhz / 200 }],
  [2000, { occupational: flat(50), public: flat(10) }],
];
const ROWS: Readonly<Record<RuleSet, Rows>> = { FCC, ICNIRP };
const AVERAGED_MIN: Readonly<Record<RuleSet, Readonly<Record<Group, number>>>> = {
  FCC: { public: 30, occupational: 6 },
  ICNIRP: { public: 30, occupational: 30 },
};
const MOST_MHZ = 6000;

/** undefined: these limits say nothing, or something else than a density, at that frequency. */
export function limitOf(rule: RuleSet, group: Group, frequencyMHz: number): Limit | undefined {
  const row = ROWS[rule].filter(([from]) => frequencyMHz >= from).at(-1);
  if (!row || frequencyMHz > MOST_MHZ) return undefined;
  return { density: row[1][group](frequencyMHz), averagedMin: AVERAGED_MIN[rule][group] };
}

/** FCC OET Bulletin 65: 2.56 with the ground's usual reflection (1.6 of the field), 4 where all of it adds (2). */
const GROUND = 2.56;
const WORST = 4;
const LIGHT_M_PER_US = 299.792458;

/** S = factor·P·G/(4πR²), solved for R. undefined: no limit of density is published there. */
export function exposureOf(station: Station, rule: RuleSet, group: Group): Exposure | undefined {
  const { frequencyMHz, powerW, feedLossDb, gainDbi, keyedShare } = station;
  const limit = limitOf(rule, group, frequencyMHz);
  if (!limit) return undefined;
  const radiatedW = powerW * 10 ** ((gainDbi - feedLossDb) / 10) * keyedShare;
  const distance = (factor: number): number =>
    Math.sqrt((factor * radiatedW) / (4 * Math.PI * limit.density));
  return {
    limit,
    distanceM: distance(GROUND),
    worstM: distance(WORST),
    nearFieldM: LIGHT_M_PER_US / frequencyMHz / (2 * Math.PI),
  };
}

/**
 * The largest share of the averaging time that is keyed: a session that fills it, or beacons that come at their interval.
 * airMs: of one transmission; everyMs: from one to the next.
 */
export function keyedShareOf(airMs: number, everyMs: number, averagedMin: number): number {
  const averagedMs = averagedMin * 60_000;
  // One more than fits evenly: the worst time begins with a transmission.
  const count = Math.ceil(averagedMs / everyMs);
  return Math.min(1, (count * airMs) / averagedMs);
}
