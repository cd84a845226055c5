/**
 * Between bits and tones: NRZI (a 0 is a change, a 1 none; ISO/IEC 13239 with AX.25 v2.2) and the 9600 baud scrambler,
 * polynomial 1 + x^12 + x^17 (self-synchronising; common practice of 9600 baud packet, no section). Both keep their state
 * between calls; input and output are arrays of 0 and 1.
 */
export class NrziEncoder {
  private level = 0;

  push(bits: Uint8Array): Uint8Array {
    return bits.map((bit) => (this.level ^= bit ^ 1));
  }
}

export class NrziDecoder {
  private level = 0;

  push(levels: Uint8Array): Uint8Array {
    return levels.map((level) => this.bit(level));
  }

  bit(level: number): number {
    const bit = level === this.level ? 1 : 0;
    this.level = level;
    return bit;
  }
}

const WIDTH = 0x1ffff;
const tap = (register: number): number => ((register >> 11) ^ (register >> 16)) & 1;

export class Scrambler {
  private register = 0;

  push(bits: Uint8Array): Uint8Array {
    return bits.map((bit) => {
      const sent = bit ^ tap(this.register);
      this.register = ((this.register << 1) | sent) & WIDTH;
      return sent;
    });
  }
}

/** Right again 17 bits after any error or start. */
export class Descrambler {
  private register = 0;

  push(bits: Uint8Array): Uint8Array {
    return bits.map((received) => this.bit(received));
  }

  bit(received: number): number {
    const bit = received ^ tap(this.register);
    this.register = ((this.register << 1) | received) & WIDTH;
    return bit;
  }
}

/** Levels of the line to bits. history: so many levels must have come before a bit is right. */
export interface LineDecoder {
  readonly history: number;
  bit(level: number): number;
}

export class NrziLine extends NrziDecoder implements LineDecoder {
  readonly history = 1;
}

/** Scrambled after NRZI. */
export class ScrambledLine implements LineDecoder {
  readonly history = 18;
  private readonly descrambler = new Descrambler();
  private readonly nrzi = new NrziDecoder();

  bit(level: number): number {
    return this.nrzi.bit(this.descrambler.bit(level));
  }
}
