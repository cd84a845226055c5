import { Injectable, Logger } from '@nestjs/common';
import { v7 as uuidv7 } from 'uuid';
import type { Modulo } from '@mistpeak/core/ax25/control';
import { decodeAddressField } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { KnownSessions } from '@mistpeak/core/stations/known-sessions';
import { viewFrame, viewLine, type FrameView } from '@mistpeak/core/stations/view';
import { NOT_APRS, NOT_AX25, type Measures, type Origin, type Trouble } from '@mistpeak/contract/frame';
import type { DiscardReason } from '@mistpeak/link/frame-link';
import { WAY_OF_A_FRAME, type Place } from './way-of-a-frame.js';

const SEQUENCES = 2 ** 31;

/** A frame as it comes in or has gone out. raw: AX.25, without flags and FCS. */
export interface Arrived {
  readonly linkId: string;
  readonly atMs: number;
  readonly port: number;
  readonly raw: Uint8Array;
  readonly origin: Origin;
  readonly measures?: Measures;
  /** In the place of raw, which is empty: a line of the internet side, one character per octet. */
  readonly line?: string;
}

/** On its way: with the id that it has in the record, and what it says or why it says nothing. */
export interface Passing extends Arrived {
  readonly id: string;
  /** Of the connection that it belongs to. */
  readonly modulo: Modulo;
  readonly view?: FrameView | undefined;
  readonly trouble?: Trouble | undefined;
}

/** What came and is no frame; times: so many alike, of which raw is the first. */
export interface Scrap {
  readonly linkId: string;
  readonly atMs: number;
  readonly raw: Uint8Array;
  readonly reason: DiscardReason;
  readonly times?: number | undefined;
}

/** What a subject wants to hear of. */
export interface Listener {
  heard?(frame: Passing): void;
  sent?(frame: Passing): void;
  scrap?(scrap: Scrap & { readonly id: string }): void;
  /** The far end says of itself that it is a stand-in. */
  standIn?(linkId: string, atMs: number): void;
}

/** The one way in, and the way back of what went out: every subject that took a place is told, in the order of the places. */
@Injectable()
export class TrafficService {
  /** Times that a subject failed at what it was told; the others were told all the same. */
  failures = 0;
  private readonly log = new Logger('traffic');
  private readonly listeners = new Map<Place, Listener>();
  /** Entries of the same millisecond keep their order by it (RFC 9562, 6.2, method 1). */
  private sequence = 0;
  /** By link: which connections there count to 127. */
  private readonly sessions = new Map<string, KnownSessions>();

  take(place: Place, listener: Listener): void {
    this.listeners.set(place, listener);
  }

  heard(frame: Arrived): void {
    const passing = this.passing(frame);
    this.tell((listener) => listener.heard?.(passing));
  }

  sent(frame: Arrived): void {
    const passing = this.passing(frame);
    this.tell((listener) => listener.sent?.(passing));
  }

  scrap(scrap: Scrap): void {
    const passing = { ...scrap, id: this.newId(scrap.atMs) };
    this.tell((listener) => listener.scrap?.(passing));
  }

  standIn(linkId: string, atMs: number): void {
    this.tell((listener) => listener.standIn?.(linkId, atMs));
  }

  private passing(frame: Arrived): Passing {
    if (frame.line !== undefined)
      return { ...frame, id: this.newId(frame.atMs), modulo: 8, ...judgeLine(frame.line) };
    const known = this.sessions.get(frame.linkId) ?? new KnownSessions();
    this.sessions.set(frame.linkId, known);
    const field = decodeAddressField(frame.raw);
    const modulo = isMalformed(field) ? 8 : known.moduloOf(field);
    const judged = judge(frame.raw, modulo);
    if (judged.view) known.note(judged.view.frame);
    return { ...frame, id: this.newId(frame.atMs), modulo, ...judged };
  }

  private newId(atMs: number): string {
    return uuidv7({ msecs: atMs, seq: this.sequence++ % SEQUENCES });
  }

  private tell(call: (listener: Listener) => void): void {
    for (const place of WAY_OF_A_FRAME) {
      const listener = this.listeners.get(place);
      if (!listener) continue;
      try {
        call(listener);
      } catch (error) {
        this.failures++;
        this.log.error(`${place}: ${(error as Error).stack ?? String(error)}`);
      }
    }
  }
}

/** The same for a line of the internet side. */
export function judgeLine(line: string): { trouble?: Trouble; view?: FrameView } {
  const view = viewLine(line);
  if (isMalformed(view)) return { trouble: NOT_AX25 };
  return view.report?.type === 'unknown' ? { trouble: NOT_APRS, view } : { view };
}

/** What is wrong with the octets of a frame, if anything, and what they say if they are a frame. */
export function judge(raw: Uint8Array, modulo: Modulo = 8): { trouble?: Trouble; view?: FrameView } {
  const view = viewFrame(raw, modulo);
  if (isMalformed(view)) return { trouble: NOT_AX25 };
  return view.report?.type === 'unknown' ? { trouble: NOT_APRS, view } : { view };
}
