import { concatOctets } from '../bits/octets.js';

/**
 * What was said in a session, in the order in which it was said, from octets as they came: passages of one side each, cut at
 * line ends. Mine are told apart by how many of my octets the far end has confirmed.
 */
export type Side = 'mine' | 'theirs';

/** Octets that came or went at once; atMs: any clock. */
export interface Said {
  readonly side: Side;
  readonly atMs: number;
  readonly octets: Uint8Array;
}

/** One line, without its end. fromOctet: how many octets of that side stand before it. */
export interface Line {
  readonly side: Side;
  readonly atMs: number;
  readonly octets: Uint8Array;
  readonly fromOctet: number;
  /** Its end has come; else more may follow. */
  readonly isWhole: boolean;
}

const CR = 0x0d;
const LF = 0x0a;
/** What goes on without a line end for so long is no text: it is cut. */
export const LONGEST_LINE = 4096;

interface Open {
  readonly side: Side;
  readonly atMs: number;
  readonly parts: Uint8Array[];
  readonly fromOctet: number;
  octets: number;
}

/** Gathers lines. CR, LF and CR LF all end one (packet lines end in CR by common practice, no source). */
export class Transcript {
  readonly lines: Line[] = [];
  private readonly counts: Record<Side, number> = { mine: 0, theirs: 0 };
  private readonly afterCr: Record<Side, boolean> = { mine: false, theirs: false };
  private open: Open | undefined;

  /** Lines that are shown, the last of them perhaps not whole. */
  shown(): readonly Line[] {
    return this.open ? [...this.lines, lineOf(this.open, false)] : this.lines;
  }

  octetsOf(side: Side): number {
    return this.counts[side];
  }

  add({ side, atMs, octets }: Said): void {
    // Who speaks up ends the other's line.
    if (this.open && this.open.side !== side) this.close(false);
    let start = 0;
    for (let i = 0; i < octets.length; i++) {
      const octet = octets[i] as number;
      const isSecondOfTwo = octet === LF && this.afterCr[side] && i === start && !this.open;
      this.afterCr[side] = octet === CR;
      if (isSecondOfTwo) {
        start = i + 1;
        this.counts[side]++;
      } else if (octet === CR || octet === LF) {
        this.append(side, atMs, octets.subarray(start, i));
        this.counts[side]++;
        start = i + 1;
        this.close(true);
      }
    }
    if (start < octets.length) this.append(side, atMs, octets.subarray(start));
  }

  private append(side: Side, atMs: number, part: Uint8Array): void {
    for (let at = 0; ; at += LONGEST_LINE) {
      const piece = part.subarray(at, at + LONGEST_LINE);
      this.open ??= { side, atMs, parts: [], fromOctet: this.counts[side], octets: 0 };
      this.open.parts.push(piece.slice());
      this.open.octets += piece.length;
      this.counts[side] += piece.length;
      if (
        this.open.octets >= LONGEST_LINE &&
        (at + LONGEST_LINE < part.length || this.open.octets > LONGEST_LINE)
      )
        this.close(false);
      if (at + LONGEST_LINE >= part.length) return;
    }
  }

  private close(isWhole: boolean): void {
    if (this.open) this.lines.push(lineOf(this.open, isWhole));
    this.open = undefined;
  }
}

function lineOf({ side, atMs, parts, fromOctet }: Open, isWhole: boolean): Line {
  return { side, atMs, octets: concatOctets(...parts), fromOctet, isWhole };
}

/** How far a line of mine has come: each state only when all of it has. */
export type Standing = 'not sent' | 'sent' | 'acknowledged';

export function standingOf(line: Line, sentOctets: number, confirmedOctets: number): Standing {
  const end = line.fromOctet + line.octets.length + (line.isWhole ? 1 : 0);
  return end <= confirmedOctets ? 'acknowledged' : end <= sentOctets ? 'sent' : 'not sent';
}
