import type { WorldFault } from '@mistpeak/core/drills/practice';

/** What can be wrong with a TNC; each is one of the faults that practitioners trace (common practice, no source). */
export const FAULTS = [
  'kiss-off',
  'deaf',
  'not-keying',
  'text-prompt',
  'half-open',
  'slow-to-open',
  'losing-bytes',
] as const;
export type Fault = (typeof FAULTS)[number];

/** How the TNC behaves. Times in ms; lossShare: of the octets that it writes, 0–1. missedShare: of the frames on the channel; spoiltShare: of its own, which nobody can read. */
export interface Behaviour {
  readonly speaksKiss: boolean;
  readonly hears: boolean;
  readonly keys: boolean;
  /** Written on connecting and after whatever comes in. */
  readonly prompt?: string;
  /** Heard frames are printed as text lines. */
  readonly printsText: boolean;
  readonly opensAfterMs: number;
  /** From then on it neither reads nor writes, and does not hang up. */
  readonly diesAfterMs?: number;
  readonly lossShare: number;
  /** At the port that everybody knows. */
  readonly listens: boolean;
  readonly missedShare: number;
  readonly spoiltShare: number;
  /** It stays keyed for so long after its packet, and hears nothing meanwhile. */
  readonly hangsMs: number;
}

const HEALTHY: Behaviour = {
  speaksKiss: true,
  hears: true,
  keys: true,
  printsText: false,
  opensAfterMs: 0,
  lossShare: 0,
  listens: true,
  missedShare: 0,
  spoiltShare: 0,
  hangsMs: 0,
};

const FAULTY: Record<Fault, Partial<Behaviour>> = {
  'kiss-off': { speaksKiss: false, printsText: true },
  deaf: { hears: false },
  'not-keying': { keys: false },
  'text-prompt': { speaksKiss: false, hears: false, prompt: '\r\ncommand? ' },
  'half-open': { diesAfterMs: 8_000 },
  'slow-to-open': { opensAfterMs: 12_000 },
  'losing-bytes': { lossShare: 0.03 },
};

export function behaviourOf(fault: Fault | undefined): Behaviour {
  return { ...HEALTHY, ...(fault ? FAULTY[fault] : {}) };
}

/** Of the faults that are practised, those that the TNC and its radio show (common practice, no source). */
const PRACTISED: Partial<Record<WorldFault, Partial<Behaviour>>> = {
  'kiss-off': FAULTY['kiss-off'],
  'wrong-port': { listens: false },
  held: { speaksKiss: false, hears: false },
  'wrong-band': { hears: false, keys: false },
  deaf: FAULTY.deaf,
  squelch: { missedShare: 0.75 },
  plug: { missedShare: 0.85, spoiltShare: 0.75 },
  'vox-slow': { spoiltShare: 1 },
  'vox-hang': { hangsMs: 4000 },
  'over-deviated': { spoiltShare: 1 },
  'keying-tone': { spoiltShare: 1 },
  battery: { spoiltShare: 0.8 },
};

/** Of two faults each takes away what it takes alone. */
export function practisedBehaviour(faults: readonly WorldFault[], usual = HEALTHY): Behaviour {
  return faults.reduce((now, fault) => {
    const one = { ...usual, ...PRACTISED[fault] };
    return {
      ...one,
      ...now,
      speaksKiss: now.speaksKiss && one.speaksKiss,
      hears: now.hears && one.hears,
      keys: now.keys && one.keys,
      listens: now.listens && one.listens,
      printsText: now.printsText || one.printsText,
      missedShare: Math.max(now.missedShare, one.missedShare),
      spoiltShare: Math.max(now.spoiltShare, one.spoiltShare),
      hangsMs: Math.max(now.hangsMs, one.hangsMs),
    };
  }, usual);
}
