import type { Position } from '../geo/position.js';

/** What can be called or used. */
export const FACILITY_KINDS = ['mail gateway', 'mailbox', 'node', 'digipeater', 'voice repeater'] as const;
export type FacilityKind = (typeof FACILITY_KINDS)[number];

/** What is told of one; empty and absent: not told. */
export interface FacilityFacts {
  readonly kind: FacilityKind;
  /** With its SSID. */
  readonly call: string;
  readonly frequencyMHz: number;
  /** As written: `packet 1200`, `FM`, the name of a mode on HF. */
  readonly mode: string;
  readonly baud?: number;
  readonly position?: Position;
  /** Over the ground. */
  readonly heightM?: number;
  /** As written: `07-22`, `daily`. */
  readonly hours: string;
  readonly toneHz?: number;
  readonly shiftMHz?: number;
  /** Declared on a list of HF gateways, %: of the path, and of the service. */
  readonly reliabilityPercent?: number;
  readonly qualityPercent?: number;
  readonly notes: string;
}

/** Where facts come from: a file or paste by its name, what was heard, a letter, the operator’s own hand. */
export interface Source {
  readonly by: 'file' | 'paste' | 'heard' | 'mail' | 'hand';
  readonly name: string;
  readonly atMs: number;
}

/** One that is known: its facts, and of each fact that was told where it comes from. */
export interface Facility extends FacilityFacts {
  readonly sources: Readonly<Partial<Record<keyof FacilityFacts, Source>>>;
}

/** Two are the same where call and frequency are: within half a step of 5 kHz. */
export const SAME_MHZ = 0.0025;

/** By which one is named: call and frequency to the step of merging. */
export const facilityKey = ({ call, frequencyMHz }: Pick<FacilityFacts, 'call' | 'frequencyMHz'>): string =>
  `${call} ${frequencyMHz.toFixed(4)}`;

export const facilityOf = (facts: FacilityFacts, source: Source): Facility => ({
  ...facts,
  sources: Object.fromEntries(toldFacts(facts).map((name) => [name, source])),
});

const FACTS: readonly (keyof FacilityFacts)[] = [
  'kind',
  'call',
  'frequencyMHz',
  'mode',
  'baud',
  'position',
  'heightM',
  'hours',
  'toneHz',
  'shiftMHz',
  'reliabilityPercent',
  'qualityPercent',
  'notes',
];

/** The names of the facts that say something. */
export const toldFacts = (facts: FacilityFacts): (keyof FacilityFacts)[] =>
  FACTS.filter((name) => facts[name] !== undefined && facts[name] !== '');
