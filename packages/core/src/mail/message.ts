import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { concatOctets, fromLatin1, toLatin1 } from '../bits/octets.js';

/**
 * A message as it travels (B2F, "Message format"): header lines, a blank line, so many octets of body, and the files, each followed
 * by CR LF. Header texts have one character per octet; order and unknown headers are kept.
 */
export interface MailMessage {
  readonly headers: readonly Header[];
  readonly body: Uint8Array;
  readonly files: readonly MailFile[];
  /** What follows the last file, where somebody put more there. */
  readonly rest?: Uint8Array;
}

export interface Header {
  readonly name: string;
  readonly value: string;
  /** No space after the colon. */
  readonly tight?: true;
}

export interface MailFile {
  /** One character per octet. */
  readonly name: string;
  readonly octets: Uint8Array;
}

const CRLF = Uint8Array.of(0x0d, 0x0a);
/** More is no message of this trade. */
const MOST_HEADERS = 500;
const LONGEST_HEADERS = 65_536;

export const headerOf = ({ headers }: Pick<MailMessage, 'headers'>, name: string): string | undefined =>
  headersOf({ headers }, name)[0];

/** All of that name, in order; case does not count. */
export const headersOf = ({ headers }: Pick<MailMessage, 'headers'>, name: string): string[] =>
  headers.filter((one) => one.name.toLowerCase() === name.toLowerCase()).map(({ value }) => value);

/** Body and File lines are made of what there is, where they stand; missing ones come last. */
export function packMessage({ headers, body, files, rest = new Uint8Array() }: MailMessage): Uint8Array {
  const fileLines = files.map(({ name, octets }) => `${octets.length} ${name}`);
  const lines: string[] = [];
  let bodies = 0;
  for (const { name, value, tight } of headers) {
    const lower = name.toLowerCase();
    const counted =
      lower === 'body' && bodies++ === 0 ? String(body.length) : lower === 'file' ? fileLines.shift() : value;
    if (counted !== undefined) lines.push(`${name}:${tight ? '' : ' '}${counted}`);
  }
  if (bodies === 0) lines.push(`Body: ${body.length}`);
  lines.push(...fileLines.map((line) => `File: ${line}`));
  // From memory: without files nothing follows the body.
  const parts = files.flatMap(({ octets }, i) => [...(i === 0 ? [CRLF] : []), octets, CRLF]);
  return concatOctets(fromLatin1(`${lines.join('\r\n')}\r\n\r\n`), body, ...parts, rest);
}

/** Malformed where a count does not fit what is there. */
export function readMessage(octets: Uint8Array): MailMessage | Malformed {
  const head = toLatin1(octets.subarray(0, LONGEST_HEADERS));
  const end = head.indexOf('\r\n\r\n');
  if (end < 0) return malformed('no blank line ends its headers', Math.min(octets.length, LONGEST_HEADERS));
  const headers = readHeaders(head.slice(0, end));
  if (isMalformed(headers)) return headers;
  const bodyOctets = countOf(headerOf({ headers }, 'Body') ?? '');
  if (bodyOctets === undefined) return malformed('no Body header says how long its text is', 0);
  const cut = new Cutter(octets, end + 4);
  const body = cut.take(bodyOctets);
  if (!body) return malformed('it ends within its text', octets.length);
  const files: MailFile[] = [];
  const lines = headersOf({ headers }, 'File');
  if (lines.length > 0 && !cut.skipLineEnd()) return malformed('no line end follows its text', cut.at);
  for (const line of lines) {
    const [, count = '', name = ''] = /^(\d+) (.*)$/s.exec(line) ?? [];
    const file = cut.take(countOf(count) ?? -1);
    if (!file) return malformed(`it ends within the file ${name || line}`, octets.length);
    if (!cut.skipLineEnd()) return malformed(`no line end follows the file ${name}`, cut.at);
    files.push({ name, octets: file });
  }
  const rest = cut.rest();
  return { headers, body, files, ...(rest.length > 0 ? { rest } : {}) };
}

function readHeaders(text: string): Header[] | Malformed {
  // A line that begins with white space goes on from the one before.
  const lines = text.split(/\r\n(?![ \t])/);
  if (lines.length > MOST_HEADERS) return malformed(`more than ${MOST_HEADERS} header lines`, 0);
  const headers: Header[] = [];
  for (const line of lines) {
    const [, name, space, value] = /^([!-9;-~]+):( ?)(.*)$/s.exec(line) ?? [];
    if (name === undefined)
      return malformed(`a header line reads “${line.slice(0, 40)}”`, text.indexOf(line));
    headers.push({ name, value: value as string, ...(space === '' ? { tight: true as const } : {}) });
  }
  return headers;
}

const countOf = (text: string): number | undefined =>
  /^\s*\d{1,8}\s*$/.test(text) ? Number(text) : undefined;

class Cutter {
  constructor(
    private readonly octets: Uint8Array,
    public at: number,
  ) {}

  take(count: number): Uint8Array | undefined {
    if (count < 0 || this.at + count > this.octets.length) return undefined;
    const part = this.octets.slice(this.at, this.at + count);
    this.at += count;
    return part;
  }

  skipLineEnd(): boolean {
    const isThere = this.octets[this.at] === CRLF[0] && this.octets[this.at + 1] === CRLF[1];
    if (isThere) this.at += 2;
    return isThere;
  }

  rest(): Uint8Array {
    return this.octets.slice(this.at);
  }
}
