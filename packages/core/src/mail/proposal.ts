import { fromLatin1 } from '../bits/octets.js';
import { malformed, type Malformed } from '../bits/malformed.js';

/** One message that is offered. octets: of the whole message; packedOctets: of its container, with its head. */
export interface Proposal {
  readonly mid: string;
  readonly octets: number;
  readonly packedOctets: number;
}

/** At most so many in a block (FBB forwarding). */
export const MOST_IN_BLOCK = 5;

export const formatProposal = ({ mid, octets, packedOctets }: Proposal): string =>
  `FC EM ${mid} ${octets} ${packedOctets} 0`;

/** EM: a message with headers; CM, a control message, is one too (from memory). */
export function parseProposal(line: string): Proposal | Malformed {
  const [, mid, octets, packed] =
    /^FC\s+[EC]M\s+([!-~]{1,12})\s+(\d{1,8})\s+(\d{1,8})(?:\s+\S*)*\s*$/i.exec(line) ?? [];
  if (packed === undefined) return malformed('a proposal reads FC EM, its id, two sizes and 0');
  return { mid: mid as string, octets: Number(octets), packedOctets: Number(packed) };
}

/** Two's complement of the sum of all octets of the proposals, the CR of each among them. */
export const checksumOf = (lines: readonly string[]): number =>
  -lines.reduce((sum, line) => fromLatin1(`${line}\r`).reduce((all, octet) => all + octet, sum), 0) & 0xff;

export const formatClosing = (lines: readonly string[]): string =>
  `F> ${checksumOf(lines).toString(16).toUpperCase().padStart(2, '0')}`;

/** Whether the line closes this block; a checksum that is missing is not asked for. */
export function closes(line: string, lines: readonly string[]): boolean {
  const [, sum] = /^F>\s*([0-9A-F]{1,2})?\s*$/i.exec(line) ?? [];
  return sum === undefined ? /^F>\s*$/.test(line) : Number.parseInt(sum, 16) === checksumOf(lines);
}

/** What becomes of a proposal. no: not wanted, or had already. offset: octets of the container that are there. */
export type Answer =
  | { readonly kind: 'yes' | 'no' | 'later' | 'held' | 'rejected' | 'error' }
  | { readonly kind: 'resume'; readonly offset: number };

const SIGNS: Readonly<Record<string, Exclude<Answer['kind'], 'resume'>>> = {
  '+': 'yes',
  Y: 'yes',
  '-': 'no',
  N: 'no',
  '=': 'later',
  L: 'later',
  H: 'held',
  R: 'rejected',
  E: 'error',
};

export const formatAnswers = (answers: readonly Answer[]): string =>
  `FS ${answers
    .map((one) =>
      one.kind === 'resume'
        ? `!${one.offset}`
        : (Object.keys(SIGNS).find((sign) => SIGNS[sign] === one.kind) as string),
    )
    .join('')}`;

/** One for each of so many proposals. */
export function parseAnswers(line: string, count: number): readonly Answer[] | Malformed {
  const [, signs] = /^FS\s+(.*?)\s*$/i.exec(line) ?? [];
  if (signs === undefined) return malformed('an answer begins with FS');
  const answers: Answer[] = [];
  for (const [sign] of signs.matchAll(/[!A]\d{1,9}|[^\s]/gi)) {
    const first = sign[0]?.toUpperCase() as string;
    if (sign.length > 1) answers.push({ kind: 'resume', offset: Number(sign.slice(1)) });
    else if (SIGNS[first]) answers.push({ kind: SIGNS[first] });
    else return malformed(`“${sign}” is no answer to a proposal`, signs.indexOf(sign));
  }
  return answers.length === count
    ? answers
    : malformed(`${answers.length} answers came to ${count} proposals`);
}

/** 0 goes before all else. */
export const PRECEDENCES = ['flash', 'immediate', 'priority', 'routine'] as const;
export type Precedence = (typeof PRECEDENCES)[number];

interface Queued {
  readonly precedence: Precedence;
  readonly packedOctets: number;
}

/** The order in which messages are offered: by precedence, then the small ones first; those of a tie as they were posted. */
export const inOrder = <One extends Queued>(queue: readonly One[]): One[] =>
  [...queue].sort(
    (a, b) =>
      PRECEDENCES.indexOf(a.precedence) - PRECEDENCES.indexOf(b.precedence) ||
      a.packedOctets - b.packedOctets,
  );
