/**
 * Special octets and commands of "The KISS TNC", Chepponis & Karn, 1987.
 * One table for both directions.
 */
export const FEND = 0xc0;
export const FESC = 0xdb;
export const TFEND = 0xdc;
export const TFESC = 0xdd;

/** Low nibble of the type octet. Parameters carry one octet; data and sethardware carry any number. */
export const KISS_COMMANDS = [
  { code: 0, name: 'data', carries: 'octets' },
  { code: 1, name: 'txdelay', carries: 'value' },
  { code: 2, name: 'persistence', carries: 'value' },
  { code: 3, name: 'slottime', carries: 'value' },
  { code: 4, name: 'txtail', carries: 'value' },
  { code: 5, name: 'fullduplex', carries: 'value' },
  { code: 6, name: 'sethardware', carries: 'octets' },
] as const;

/** The whole type octet FF: leave KISS mode. It has no port. */
export const KISS_RETURN = 0xff;

export type KissOctetsCommand = 'data' | 'sethardware';
export type KissValueCommand = 'txdelay' | 'persistence' | 'slottime' | 'txtail' | 'fullduplex';

/** port 0–15; value 0–255. */
/** One of the TNC's parameters, as KISS carries it. */
export interface KissValueFrame {
  readonly port: number;
  readonly command: KissValueCommand;
  readonly value: number;
}

export type KissFrame =
  | { readonly port: number; readonly command: KissOctetsCommand; readonly payload: Uint8Array }
  | KissValueFrame
  | { readonly command: 'return' };

/** Our limit, not the paper's: a longer frame is no AX.25 frame of any common size, so it is discarded. */
export const LONGEST_KISS_PAYLOAD = 4096;

export type KissDiscardReason =
  | 'outside a frame'
  | 'bad escape'
  | 'too long'
  | 'unknown command'
  | 'empty frame'
  | 'bad parameter'
  | 'cut off';

/** octets: how many arrived; raw: the first of them, unescaped, at most 256. */
export interface KissDiscard {
  readonly discarded: KissDiscardReason;
  readonly octets: number;
  readonly raw: Uint8Array;
}
