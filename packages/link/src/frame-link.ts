import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import type { KissDiscard, KissFrame, KissValueFrame } from '@mistpeak/core/kiss/commands';
import type { ByteLink } from './byte-link.js';
import type { Clock } from './clock.js';
import { isStandInSignature } from './stand-in-signature.js';

export type DiscardReason = KissDiscard['discarded'] | 'unexpected command';

/** What comes out of a link, stamped once, here. raw: an AX.25 frame without flags and FCS, as received. */
export type LinkEvent =
  | { readonly kind: 'frame'; readonly atMs: number; readonly port: number; readonly raw: Uint8Array }
  | {
      readonly kind: 'discard';
      readonly atMs: number;
      readonly reason: DiscardReason;
      readonly octets: number;
      readonly raw: Uint8Array;
      /** So many pieces of that kind in one; absent: this one alone. raw is the first of them. */
      readonly times?: number;
    }
  | { readonly kind: 'stand-in'; readonly atMs: number }
  | { readonly kind: 'hardware'; readonly atMs: number; readonly raw: Uint8Array };

/** An AX.25 frame for one of the link's ports, 0 where it has only one. */
export interface PortFrame {
  readonly port: number;
  readonly raw: Uint8Array;
}

/** Frames in, frames out, whatever carries them. */
export interface FrameLink {
  readonly receive: AsyncIterable<LinkEvent>;
  send(frame: PortFrame): Promise<void>;
  close(): Promise<void>;
}

/** A frame link whose far end is a TNC with channel access of its own. */
export interface KissLink extends FrameLink {
  /** One parameter; a TNC answers none of them. */
  set(parameter: KissValueFrame): Promise<void>;
}

/** KISS over any wire of octets. The wire's failure is thrown by receive, send and set. */
export function overBytes(wire: ByteLink, clock: Clock): KissLink {
  return {
    receive: receiveFrames(wire, clock),
    send: ({ port, raw }) => wire.send(encodeKiss({ port, command: 'data', payload: raw })),
    set: (parameter) => wire.send(encodeKiss(parameter)),
    close: () => wire.close(),
  };
}

/**
 * A TNC writes a frame in one go: what was begun so long ago is cut off, and what comes now is no part of it. A radio that was
 * switched from KISS to its other output would else be silent (common practice, no source).
 */
export const FRAME_PAUSE_MS = 3000;

async function* receiveFrames(wire: ByteLink, clock: Clock): AsyncGenerator<LinkEvent> {
  const decoder = new KissDecoder();
  let lastUpMs = clock.upMs();
  for await (const octets of wire.receive) {
    const [atMs, upMs] = [clock.nowMs(), clock.upMs()];
    // With nothing begun it stays as it is: two frames may share one FEND.
    if (upMs - lastUpMs > FRAME_PAUSE_MS && decoder.pending().length > 0)
      for (const item of decoder.end()) yield eventOf(item, atMs);
    lastUpMs = upMs;
    for (const item of decoder.push(octets)) yield eventOf(item, atMs);
  }
  for (const item of decoder.end()) yield eventOf(item, clock.nowMs());
}

function eventOf(item: KissFrame | KissDiscard, atMs: number): LinkEvent {
  if ('discarded' in item)
    return { kind: 'discard', atMs, reason: item.discarded, octets: item.octets, raw: item.raw };
  if (item.command === 'data') return { kind: 'frame', atMs, port: item.port, raw: item.payload };
  if (isStandInSignature(item)) return { kind: 'stand-in', atMs };
  if (item.command === 'sethardware') return { kind: 'hardware', atMs, raw: item.payload };
  // Parameters go from host to TNC only (KISS paper, "Control of the KISS TNC"): coming back they are noise.
  const raw = encodeKiss(item).slice(1, -1);
  return { kind: 'discard', atMs, reason: 'unexpected command', octets: raw.length, raw };
}
