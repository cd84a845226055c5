import type { SessionEffect, SessionState } from '../sessions/session.js';

/**
 * Gives each end octets to send and judges what arrives. The octets are words of four: which end, which of its lives, and
 * a number that counts up, so that a gap, a double and a swap are all seen.
 */
type Seen = Exclude<SessionEffect, { kind: 'transmit' | 'start' | 'stop' }>;

export interface Findings {
  readonly faults: readonly string[];
  readonly resets: number;
  readonly connected: boolean;
  /** Everything that was to be sent arrived, in one life of the link. */
  readonly complete: boolean;
  readonly tookMs: number;
  readonly resent: number;
  readonly deliveredOctets: number;
}

const WORD = 4;

interface Side {
  life: number;
  /** Words handed over and words confirmed in this life. */
  given: number;
  confirmed: number;
  readonly wanted: number;
  isUp: boolean;
  everUp: boolean;
  /** The last word that arrived here in this life. */
  last: { readonly life: number; readonly index: number } | undefined;
  delivered: number;
  resets: number;
}

export class Witness {
  private readonly sides: readonly [Side, Side];
  private readonly faults: string[] = [];

  constructor(
    octets: readonly [number, number],
    private readonly portion: number,
    private readonly send: (i: 0 | 1, octets: Uint8Array) => void,
  ) {
    const side = (wanted: number): Side => ({
      life: 0,
      given: 0,
      confirmed: 0,
      wanted: Math.floor(wanted / WORD),
      isUp: false,
      everUp: false,
      last: undefined,
      delivered: 0,
      resets: 0,
    });
    this.sides = [side(octets[0]), side(octets[1])];
  }

  saw(i: 0 | 1, effect: Seen): void {
    const side = this.sides[i];
    switch (effect.kind) {
      case 'connected':
        side.isUp = true;
        side.everUp = true;
        return this.beginLife(i);
      case 'reset':
        side.resets++;
        return this.beginLife(i);
      case 'disconnected':
        side.isUp = false;
        return;
      case 'data':
        return this.arrived(i, effect.octets);
      case 'confirmed':
        side.confirmed += effect.octets / WORD;
        if (side.confirmed > side.given) this.faults.push(`end ${i}: more was confirmed than was sent`);
        return this.give(i);
      case 'trouble':
        return;
    }
  }

  /** Both ends have sent everything and know that it arrived. */
  isDone(): boolean {
    return this.sides.every(({ isUp, confirmed, wanted }) => isUp && confirmed >= wanted);
  }

  findings(end: { over: boolean; tookMs: number; states: readonly SessionState[] }): Findings {
    const [a, b] = this.sides;
    if (!end.over) this.faults.push(`no end after ${Math.round(end.tookMs / 60_000)} min`);
    const oneLife = a.resets + b.resets === 0 && a.life === 1 && b.life === 1;
    const complete = oneLife && a.delivered === b.wanted && b.delivered === a.wanted;
    if (oneLife && this.isConfirmed() && !complete)
      this.faults.push('everything was confirmed in one life, and not everything arrived');
    return {
      faults: this.faults,
      resets: a.resets + b.resets,
      connected: a.everUp && b.everUp,
      complete,
      tookMs: end.tookMs,
      resent: end.states.reduce((sum, { resent }) => sum + resent, 0),
      deliveredOctets: (a.delivered + b.delivered) * WORD,
    };
  }

  private isConfirmed(): boolean {
    return this.sides.every(({ confirmed, wanted }) => confirmed >= wanted);
  }

  /** What was queued is gone: all of it is given anew, marked as another life's. */
  private beginLife(i: 0 | 1): void {
    const side = this.sides[i];
    side.life++;
    side.given = 0;
    side.confirmed = 0;
    side.last = undefined;
    this.give(i);
  }

  /** As the other end confirms, more is given: like lines that wait for their answers. */
  private give(i: 0 | 1): void {
    const side = this.sides[i];
    const words = Math.min(this.portion / WORD, side.wanted - side.given);
    if (words <= 0 || side.given - side.confirmed > this.portion / WORD) return;
    const octets = new Uint8Array(words * WORD);
    for (let w = 0; w < words; w++) {
      const index = side.given + w;
      octets.set([i, side.life & 0xff, index >> 8, index & 0xff], w * WORD);
    }
    side.given += words;
    this.send(i, octets);
  }

  private arrived(i: 0 | 1, octets: Uint8Array): void {
    const side = this.sides[i];
    const other = this.sides[1 - i] as Side;
    if (octets.length % WORD !== 0) this.faults.push(`end ${i}: a frame of ${octets.length} octets arrived`);
    for (let at = 0; at + WORD <= octets.length; at += WORD) {
      const [from, life, high, low] = octets.subarray(at, at + WORD) as unknown as [
        number,
        number,
        number,
        number,
      ];
      const index = (high << 8) | low;
      const { last } = side;
      if (from === i) this.faults.push(`end ${i}: its own words came back`);
      const isNext =
        last === undefined
          ? index === 0 || (life === other.life && side.life + other.life > 2)
          : life === last.life && index === last.index + 1;
      // The sender began a new life (and said so) while this end did not notice: from its first word on.
      const isSeam = last !== undefined && life > last.life && index === 0;
      if (!isNext && !isSeam)
        this.faults.push(
          `end ${i}: word ${life}/${index} came after ${last ? `${last.life}/${last.index}` : 'nothing'}`,
        );
      side.last = { life, index };
      side.delivered++;
    }
  }
}
