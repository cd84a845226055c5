import { toLatin1 } from '../bits/octets.js';

/** With its line end (public connection description of APRS-IS: "512 bytes including the CR/LF"). */
export const LONGEST_LINE = 512;

/** Cuts a stream into lines, one character per octet. A longer line is dropped whole and counted: it fills no memory. */
export class LineCutter {
  tooLong = 0;
  private rest = '';
  private isSkipping = false;

  push(octets: Uint8Array): string[] {
    const parts = toLatin1(octets).split('\n');
    const last = parts.pop() as string;
    const lines: string[] = [];
    for (const part of parts) {
      const line = (this.rest + part).replace(/\r+$/, '');
      const fits = !this.isSkipping && line.length <= LONGEST_LINE - 2;
      if (!fits) this.tooLong++;
      else if (line !== '') lines.push(line);
      this.rest = '';
      this.isSkipping = false;
    }
    if (this.isSkipping) return lines;
    this.rest += last;
    if (this.rest.length > LONGEST_LINE) {
      this.isSkipping = true;
      this.rest = '';
    }
    return lines;
  }
}
