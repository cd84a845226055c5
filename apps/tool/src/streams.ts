import { once } from 'node:events';
import { malformed, type Malformed } from '@mistpeak/core/bits/malformed';

const LF = 0x0a;
/** A line longer than this is no frame; it is cut so that memory stays bounded. */
const LONGEST_LINE = 1 << 20;

/** Standard input line by line, one character per octet, without the LF. */
export async function* inputLines(): AsyncGenerator<string> {
  let rest = Buffer.alloc(0);
  for await (const chunk of process.stdin as AsyncIterable<Buffer>) {
    const whole = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
    let start = 0;
    for (let end = whole.indexOf(LF); end >= 0; end = whole.indexOf(LF, start)) {
      yield whole.toString('latin1', start, end);
      start = end + 1;
    }
    rest = Buffer.from(whole.subarray(start, start + LONGEST_LINE));
  }
  if (rest.length > 0) yield rest.toString('latin1');
}

export function inputChunks(): AsyncIterable<Buffer> {
  return process.stdin as AsyncIterable<Buffer>;
}

/** Standard input to its end, so many octets at most. */
export async function inputWhole(most: number): Promise<Uint8Array | Malformed> {
  const parts: Buffer[] = [];
  let octets = 0;
  for await (const chunk of inputChunks()) {
    octets += chunk.length;
    if (octets > most) return malformed(`more than ${most} octets`, most);
    parts.push(chunk);
  }
  return new Uint8Array(Buffer.concat(parts));
}

/** Gathers output into larger writes and waits for a slow reader. */
export class Output {
  private parts: (string | Uint8Array)[] = [];
  private size = 0;

  async line(text: string): Promise<void> {
    await this.octets(`${text}\n`);
  }

  async octets(part: string | Uint8Array): Promise<void> {
    this.parts.push(part);
    this.size += part.length;
    if (this.size > 65_536) await this.flush();
  }

  async flush(): Promise<void> {
    const whole = Buffer.concat(
      this.parts.map((part) => (typeof part === 'string' ? Buffer.from(part) : part)),
    );
    this.parts = [];
    this.size = 0;
    if (!process.stdout.write(whole)) await once(process.stdout, 'drain');
  }
}
