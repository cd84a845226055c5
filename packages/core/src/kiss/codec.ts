import {
  FEND,
  FESC,
  KISS_COMMANDS,
  KISS_RETURN,
  LONGEST_KISS_PAYLOAD,
  TFEND,
  TFESC,
  type KissDiscard,
  type KissDiscardReason,
  type KissFrame,
} from './commands.js';

const RAW_KEPT = 256;
const PIECE = 2048;
/** Noise without any FEND is reported at least this often, so that an endless stream is not silence. */
const NOISE_RUN = 256;
const ENDLESS_RUN = 65_536;
const CR = 0x0d;
const LF = 0x0a;

/** One frame as it goes on the wire, with a FEND at both ends (KISS paper, "Asynchronous Frame Format"). */
export function encodeKiss(frame: KissFrame): Uint8Array {
  const content = contentOf(frame);
  const wire: number[] = [FEND];
  for (const octet of content) {
    if (octet === FEND) wire.push(FESC, TFEND);
    else if (octet === FESC) wire.push(FESC, TFESC);
    else wire.push(octet);
  }
  wire.push(FEND);
  return Uint8Array.from(wire);
}

function contentOf(frame: KissFrame): Uint8Array {
  if (frame.command === 'return') return Uint8Array.of(KISS_RETURN);
  const entry = KISS_COMMANDS.find((command) => command.name === frame.command);
  if (!entry) throw new RangeError(`no KISS command ${frame.command}`);
  if (!(Number.isInteger(frame.port) && frame.port >= 0 && frame.port <= 15))
    throw new RangeError('a KISS port is 0 to 15');
  const type = (frame.port << 4) | entry.code;
  if ('payload' in frame) {
    const content = new Uint8Array(frame.payload.length + 1);
    content[0] = type;
    content.set(frame.payload, 1);
    return content;
  }
  if (!(Number.isInteger(frame.value) && frame.value >= 0 && frame.value <= 255))
    throw new RangeError('a KISS parameter is one octet');
  return Uint8Array.of(type, frame.value);
}

type State = 'hunting' | 'frame' | 'escape' | 'skipping';

/**
 * Byte machine: push() takes octets cut anywhere and returns whole frames and discards in order.
 *
 *   hunting --FEND--> frame --FEND--> (frame out) frame
 *   frame --FESC--> escape --TFEND|TFESC--> frame
 *   escape --other--> skipping --FEND--> (discard out) frame
 *   frame --over 4096--> skipping
 *
 * The paper goes on assembling after a bad escape; we drop the frame and count it, because a frame
 * with an octet missing is wrong data (declared deviation).
 */
export class KissDecoder {
  private state: State = 'hunting';
  private readonly content = new Uint8Array(LONGEST_KISS_PAYLOAD + 1);
  private piece = new Uint8Array(PIECE);
  private used = 0;
  private length = 0;
  private octets = 0;
  private reason: KissDiscardReason = 'outside a frame';

  push(chunk: Uint8Array): (KissFrame | KissDiscard)[] {
    const out: (KissFrame | KissDiscard)[] = [];
    for (let i = 0; i < chunk.length; i++) {
      if (this.state === 'frame') i = this.keepRun(chunk, i);
      if (i < chunk.length) this.take(chunk[i] as number, out);
    }
    return out;
  }

  /** The stream ended: what was begun is reported, the machine is as new. */
  end(): KissDiscard[] {
    const rest: (KissFrame | KissDiscard)[] = [];
    if (this.octets > 0) {
      if (this.state === 'frame' || this.state === 'escape') this.reason = 'cut off';
      this.discard(rest);
    }
    this.begin('hunting');
    return rest as KissDiscard[];
  }

  /** Octets received since the last whole frame or discard: a prompt without a line end stays here. */
  pending(): Uint8Array {
    return this.content.slice(0, Math.min(this.length, RAW_KEPT));
  }

  private take(octet: number, out: (KissFrame | KissDiscard)[]): void {
    if (octet === FEND) return this.closeAt(out);
    switch (this.state) {
      case 'hunting':
        this.keep(octet);
        if (octet === CR || octet === LF || this.octets >= NOISE_RUN) {
          this.discard(out);
          this.begin('hunting');
        }
        return;
      case 'frame': // FESC, or an octet for which there is no room
        this.octets++;
        if (octet === FESC) this.state = 'escape';
        else this.skip('too long');
        return;
      case 'escape':
        if (octet === TFEND || octet === TFESC) {
          this.state = 'frame';
          this.keep(octet === TFEND ? FEND : FESC);
          this.octets--; // the pair counted twice
          return;
        }
        this.octets++;
        this.skip('bad escape');
        return;
      case 'skipping':
        this.octets++;
        if (this.octets < ENDLESS_RUN) return;
        this.discard(out);
        this.begin('skipping');
    }
  }

  private keep(octet: number): void {
    this.octets++;
    if (this.length < this.content.length) this.content[this.length++] = octet;
    else this.skip('too long');
  }

  /** Takes the octets up to the next special one; where it stands. A plain loop beats set() on frames of usual size. */
  private keepRun(chunk: Uint8Array, from: number): number {
    const { content } = this;
    let { length } = this;
    let at = from;
    for (; at < chunk.length && length < content.length; at++) {
      const octet = chunk[at] as number;
      if (octet === FEND || octet === FESC) break;
      content[length++] = octet;
    }
    this.octets += at - from;
    this.length = length;
    return at;
  }

  /**
   * The content as octets of their own: cut from a larger piece, since making a buffer for each frame costs more than all
   * the rest. A frame that is kept for long keeps that piece with it.
   */
  private kept(): Uint8Array {
    const { content, length } = this;
    if (length > PIECE) return content.slice(0, length);
    if (this.used + length > PIECE) {
      this.piece = new Uint8Array(PIECE);
      this.used = 0;
    }
    const own = this.piece.subarray(this.used, this.used + length);
    for (let i = 0; i < length; i++) own[i] = content[i] as number;
    this.used += length;
    return own;
  }

  private skip(reason: KissDiscardReason): void {
    this.state = 'skipping';
    this.reason = reason;
  }

  private begin(state: State): void {
    this.state = state;
    this.length = 0;
    this.octets = 0;
    if (state === 'hunting') this.reason = 'outside a frame';
  }

  private closeAt(out: (KissFrame | KissDiscard)[]): void {
    // Back-to-back FENDs are not empty frames (KISS paper).
    if (this.octets > 0) {
      if (this.state === 'frame') this.finish(out);
      else {
        if (this.state === 'escape') this.reason = 'bad escape';
        this.discard(out);
      }
    }
    this.begin('frame');
  }

  private finish(out: (KissFrame | KissDiscard)[]): void {
    const frame = frameOf(this.kept());
    if (typeof frame === 'object') {
      out.push(frame);
      return;
    }
    this.reason = frame;
    this.discard(out);
  }

  private discard(out: (KissFrame | KissDiscard)[]): void {
    out.push({ discarded: this.reason, octets: this.octets, raw: this.pending() });
  }
}

/** The content between two FENDs, type octet first; a reason when it is no frame. */
function frameOf(content: Uint8Array): KissFrame | KissDiscardReason {
  const type = content[0] ?? 0;
  if (type === KISS_RETURN) return content.length === 1 ? { command: 'return' } : 'bad parameter';
  const entry = KISS_COMMANDS[type & 15];
  if (!entry) return 'unknown command';
  const port = type >> 4;
  const payload = content.subarray(1);
  if (entry.carries === 'octets')
    return payload.length === 0 ? 'empty frame' : { port, command: entry.name, payload };
  if (payload.length !== 1) return 'bad parameter';
  return { port, command: entry.name, value: payload[0] as number };
}
