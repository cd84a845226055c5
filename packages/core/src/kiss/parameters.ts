import type { KissValueFrame } from './commands.js';

/**
 * The channel-access settings of one TNC port, in the units an operator thinks in.
 * txDelayMs 0–2550 in steps of 10 · persistence 0–1 · slotTimeMs 0–2550 · txTailMs 0–2550.
 */
export interface KissParameters {
  readonly txDelayMs: number;
  readonly persistence: number;
  readonly slotTimeMs: number;
  readonly txTailMs: number;
}

/** The paper's start values, with TXDELAY at the 300 ms that is usual today (common practice, no source). */
export const USUAL_KISS_PARAMETERS: KissParameters = {
  txDelayMs: 300,
  persistence: 0.25,
  slotTimeMs: 100,
  txTailMs: 30,
};

/** The frames that set them, in the order of the paper's command table. p = value·256 − 1 (KISS paper). */
export function kissParameterFrames(port: number, parameters: KissParameters): KissValueFrame[] {
  return [
    { port, command: 'txdelay', value: tens(parameters.txDelayMs) },
    { port, command: 'persistence', value: persistenceOctet(parameters.persistence) },
    { port, command: 'slottime', value: tens(parameters.slotTimeMs) },
    { port, command: 'txtail', value: tens(parameters.txTailMs) },
    { port, command: 'fullduplex', value: 0 },
  ];
}

export function persistenceOctet(probability: number): number {
  return Math.min(255, Math.max(0, Math.round(probability * 256) - 1));
}

/** The chance that such an octet stands for. */
export function persistenceOf(octet: number): number {
  return (octet + 1) / 256;
}

function tens(ms: number): number {
  return Math.min(255, Math.max(0, Math.round(ms / 10)));
}
