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

/** How the TNC behaves. Times in ms; lossShare: of the octets that it writes, 0–1. */
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
}

const HEALTHY: Behaviour = {
  speaksKiss: true,
  hears: true,
  keys: true,
  printsText: false,
  opensAfterMs: 0,
  lossShare: 0,
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
