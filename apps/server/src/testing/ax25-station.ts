import type { KissPeer } from './kiss-peer.js';
import { until } from './server-up.js';

/**
 * The far end of a connection for tests alone, written from the text of the standard (AX.25 v2.2: 3.12 addresses, 4.2 control
 * fields, 4.3 frames; KISS paper) and from none of our codecs. What it hears it tells as words; what it says the test decides.
 */
export interface HeardFrame {
  readonly from: string;
  readonly to: string;
  readonly via: readonly string[];
  /** `SABM P`, `I 2 5:text`, `RR 3 F`, … with P of a command and F of a response. */
  readonly words: string;
  readonly info: Buffer;
}

const UNNUMBERED: Readonly<Record<number, string>> = {
  0x2f: 'SABM',
  0x6f: 'SABME',
  0x43: 'DISC',
  0x0f: 'DM',
  0x63: 'UA',
  0x87: 'FRMR',
  0x03: 'UI',
  0xaf: 'XID',
  0xe3: 'TEST',
};
const SUPERVISORY = ['RR', 'RNR', 'REJ', 'SREJ'];
const POLL = 0x10;

export class Ax25Station {
  private told = 0;

  constructor(
    private readonly peer: KissPeer,
    readonly call: string,
    readonly other: string,
    /** As the frames of this station show them: already repeated. */
    private readonly via: readonly string[] = [],
  ) {}

  /** Everything of the connection that it has heard. */
  heard(): HeardFrame[] {
    return kissFrames(this.peer.everything())
      .flatMap((frame) => describe(frame) ?? [])
      .filter(({ to, from }) => to === this.call && from === this.other);
  }

  /** The next that it was not told yet. */
  next(): Promise<string> {
    return until(`a frame for ${this.call}`, () => this.heard()[this.told]?.words).then((words) => {
      this.told++;
      return words;
    });
  }

  /** Waits for these, in this order, and nothing between. */
  async expect(...all: readonly string[]): Promise<void> {
    for (const words of all) {
      const next = await this.next();
      if (next !== words) throw new Error(`${this.call} expected “${words}” and heard “${next}”`);
    }
  }

  /** Passes over until these. */
  async waitFor(words: string): Promise<void> {
    while ((await this.next()) !== words);
  }

  /** Nothing new so far. */
  pendingWords(): string[] {
    return this.heard()
      .slice(this.told)
      .map(({ words }) => words);
  }

  sabm(): void {
    this.say(0x2f | POLL, 'command');
  }

  ua(): void {
    this.say(0x63 | POLL, 'response');
  }

  dm(final = true): void {
    this.say(0x0f | (final ? POLL : 0), 'response');
  }

  disc(): void {
    this.say(0x43 | POLL, 'command');
  }

  frmr(info = [0, 0, 0]): void {
    this.say(0x87 | POLL, 'response', Buffer.from(info));
  }

  /** I, with N(S) and N(R) in their bits (4.2.1), PID F0. */
  i(ns: number, nr: number, text: string, poll = false): void {
    const control = (nr << 5) | (poll ? POLL : 0) | (ns << 1);
    this.say(control, 'command', Buffer.concat([Buffer.from([0xf0]), Buffer.from(text, 'latin1')]));
  }

  supervisory(
    kind: 'RR' | 'RNR' | 'REJ' | 'SREJ',
    nr: number,
    role: 'command' | 'response' = 'response',
    bit = false,
  ): void {
    this.say((nr << 5) | (bit ? POLL : 0) | (SUPERVISORY.indexOf(kind) << 2) | 1, role);
  }

  /** Octets from the control field on, in a frame from here to the other. */
  say(control: number, role: 'command' | 'response', rest: Buffer = Buffer.alloc(0)): void {
    const isCommand = role === 'command';
    const addresses = [
      address(this.other, isCommand, false),
      address(this.call, !isCommand, this.via.length === 0),
      ...this.via.map((call, i) => address(call, true, i === this.via.length - 1)),
    ];
    const frame = Buffer.concat([...addresses, Buffer.from([control]), rest]);
    this.peer.send(
      Buffer.concat([Buffer.from([0xc0, 0]), escaped(frame), Buffer.from([0xc0])]).toString('hex'),
    );
  }
}

/** 3.12.2: six letters shifted by one, then SSID with reserved bits and the end bit; high: C or H. */
function address(call: string, high: boolean, last: boolean): Buffer {
  const [name = '', ssid = '0'] = call.split('-');
  const letters = [...name.padEnd(6)].map((letter) => letter.charCodeAt(0) << 1);
  return Buffer.from([...letters, (high ? 0x80 : 0) | 0x60 | (Number(ssid) << 1) | (last ? 1 : 0)]);
}

function callAt(frame: Buffer, at: number): string {
  const name = [...frame.subarray(at, at + 6)]
    .map((octet) => String.fromCharCode(octet >> 1))
    .join('')
    .trim();
  const ssid = ((frame[at + 6] as number) >> 1) & 0x0f;
  return ssid === 0 ? name : `${name}-${ssid}`;
}

function describe(frame: Buffer): HeardFrame | undefined {
  if (frame.length < 15) return undefined;
  let at = 0;
  const calls: string[] = [];
  do {
    calls.push(callAt(frame, at));
    at += 7;
  } while (((frame[at - 1] as number) & 1) === 0 && at + 7 < frame.length);
  const [to, from, ...via] = calls as [string, string, ...string[]];
  const isCommand = ((frame[6] as number) & 0x80) !== 0;
  const control = frame[at] as number;
  const mark = (control & POLL) === 0 ? '' : isCommand ? ' P' : ' F';
  const head = { from, to, via };
  if ((control & 1) === 0) {
    const info = frame.subarray(at + 2);
    return {
      ...head,
      info,
      words: `I ${(control >> 1) & 7} ${control >> 5}${mark}:${info.toString('latin1')}`,
    };
  }
  const info = frame.subarray(at + 1);
  if ((control & 3) === 1)
    return { ...head, info, words: `${SUPERVISORY[(control >> 2) & 3]} ${control >> 5}${mark}` };
  return { ...head, info, words: `${UNNUMBERED[control & ~POLL] ?? '?'}${mark}` };
}

/** KISS data frames of port 0 in a stream that is given in hex. */
function kissFrames(hex: string): Buffer[] {
  return hex
    .match(/../g)!
    .join(' ')
    .split('c0')
    .map((part) => part.trim())
    .filter((part) => part.startsWith('00 '))
    .map((part) =>
      Buffer.from(part.slice(3).replace(/db dc/g, 'c0').replace(/db dd/g, 'db').replace(/ /g, ''), 'hex'),
    );
}

function escaped(frame: Buffer): Buffer {
  return Buffer.from(
    [...frame].flatMap((octet) => (octet === 0xc0 ? [0xdb, 0xdc] : octet === 0xdb ? [0xdb, 0xdd] : [octet])),
  );
}
