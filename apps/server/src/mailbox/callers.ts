import { toLatin1 } from '@mistpeak/core/bits/octets';

const CR = 0x0d;
const LF = 0x0a;
const CTRL_Z = 0x1a;
/** What has no end is cut there. */
const LONGEST_LINE = 1000;

/** Lines out of octets, as a caller types them: CR, LF, both, or Ctrl-Z, which stays at the end of its line. */
export class CallerLines {
  private gathered: number[] = [];
  private afterCr = false;

  take(octets: Uint8Array): string[] {
    const lines: string[] = [];
    const close = (): void => {
      lines.push(toLatin1(Uint8Array.from(this.gathered)));
      this.gathered = [];
    };
    for (const octet of octets) {
      const isSecondOfTwo = octet === LF && this.afterCr;
      this.afterCr = octet === CR;
      if (isSecondOfTwo) continue;
      if (octet === CR || octet === LF) close();
      else {
        this.gathered.push(octet);
        if (octet === CTRL_Z || this.gathered.length >= LONGEST_LINE) close();
      }
    }
    return lines;
  }
}
