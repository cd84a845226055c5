import { describeReport } from '../../aprs/describe.js';
import { parseAprs } from '../../aprs/parse.js';
import { decodeFrame, encodeFrame, uiFrame } from '../../ax25/frame.js';
import { explainPath } from '../../digipeating/explain.js';
import { encodeKiss, KissDecoder } from '../../kiss/codec.js';
import { seededDice } from '../../network/dice.js';
import { isMalformed } from '../malformed.js';
import { concatOctets, equalOctets, fromLatin1, toHex } from '../octets.js';

/** What a run over so many inputs found; failures carry the input in hex, so that it can be read again. */
export interface FuzzFindings {
  readonly inputs: number;
  /** How many were read as something, so that the run is known to reach past the first check. */
  readonly frames: number;
  readonly reports: number;
  readonly failures: readonly string[];
  /** The longest that a thousand inputs took, ms. */
  readonly slowestMs: number;
}

const MANNER = { units: 'metric', coordinates: 'decimal' } as const;
const BLOCK = 1000;
const MOST_FAILURES = 10;
/** Octets on which the formats turn: KISS and HDLC signs, digits, separators, ends of ranges. */
const TELLING = fromLatin1("\xc0\xdb\xdc\xdd\x00\x7e\x7f\x80\xff\x1c\x1d09AZaz !/\\:;>{}|_`'.,#*$?<[=@^&%~");

/**
 * Random octets and mutations of the seeds, in turn through KISS, AX.25 and APRS. infos: valid info fields to begin from.
 * Nothing may throw; what AX.25 can read must come back the same when encoded. nowMs: any clock, for the slowest.
 */
export function fuzz(
  infos: readonly string[],
  inputs: number,
  seed: number,
  nowMs: () => number,
): FuzzFindings {
  const run = new Run(infos, seed, nowMs);
  let slowestMs = 0;
  for (let done = 0; done < inputs && run.failures.length < MOST_FAILURES; done += BLOCK)
    slowestMs = Math.max(slowestMs, run.block());
  return { inputs: run.inputs, frames: run.frames, reports: run.reports, failures: run.failures, slowestMs };
}

class Run {
  inputs = 0;
  frames = 0;
  reports = 0;
  readonly failures: string[] = [];
  private readonly dice: () => number;
  private readonly infos: readonly Uint8Array[];
  private readonly packets: readonly Uint8Array[];
  private readonly streams: readonly Uint8Array[];
  private readonly kiss = new KissDecoder();
  private readonly scratch = new Uint8Array(4096);

  constructor(
    infos: readonly string[],
    seed: number,
    private readonly nowMs: () => number,
  ) {
    this.dice = seededDice(seed);
    this.infos = infos.map(fromLatin1);
    const path = [
      { call: 'QH1ANR', used: true },
      { call: 'WIDE2-1', used: false },
    ];
    this.packets = this.infos.map((info, i) =>
      encodeFrame(uiFrame('QH7CTA-9', i % 2 ? 'S32U6T' : 'APZMPK', path, info)),
    );
    this.streams = this.packets.map((payload) => encodeKiss({ port: 0, command: 'data', payload }));
  }

  block(): number {
    const begun = this.nowMs();
    for (let i = 0; i < BLOCK; i++) {
      const turn = this.inputs++ % 3;
      const input = this.input([this.streams, this.packets, this.infos][turn] as readonly Uint8Array[]);
      try {
        if (turn === 0) this.readStream(input);
        else if (turn === 1) this.readPacket(input);
        else this.readInfo(input, i % 2 ? 'S32U6T' : 'APZMPK');
      } catch (error) {
        this.failures.push(`${['KISS', 'AX.25', 'APRS'][turn]} ${toHex(input)}: ${String(error)}`);
      }
    }
    return this.nowMs() - begun;
  }

  /** One in eight is random throughout; the others are seeds, cut, joined, and with some octets changed. */
  private input(seeds: readonly Uint8Array[]): Uint8Array {
    const { dice, scratch } = this;
    if (dice() < 0.125) {
      const length = Math.floor(dice() * 100);
      for (let i = 0; i < length; i++) scratch[i] = dice() * 256;
      return scratch.slice(0, length);
    }
    const seed = seeds[Math.floor(dice() * seeds.length)] as Uint8Array;
    scratch.set(seed);
    const length = dice() < 0.2 ? Math.floor(dice() * seed.length) : seed.length;
    const changes = Math.floor(dice() * 4);
    for (let i = 0; i < changes && length > 0; i++)
      scratch[Math.floor(dice() * length)] =
        dice() < 0.5 ? dice() * 256 : (TELLING[Math.floor(dice() * TELLING.length)] as number);
    const whole = scratch.slice(0, length);
    return dice() < 0.05
      ? concatOctets(whole, seeds[Math.floor(dice() * seeds.length)] as Uint8Array)
      : whole;
  }

  private readStream(input: Uint8Array): void {
    for (const item of this.kiss.push(input))
      if ('payload' in item) {
        this.frames++;
        decodeFrame(item.payload);
      }
  }

  private readPacket(input: Uint8Array): void {
    const frame = decodeFrame(input);
    if (isMalformed(frame)) return;
    this.frames++;
    if (!equalOctets(encodeFrame(frame), input)) throw new Error('comes back changed');
    explainPath(frame.path);
    if (frame.control.kind === 'UI') this.readInfo(frame.info, frame.destination);
  }

  private readInfo(info: Uint8Array, destination: string): void {
    const report = parseAprs(info, destination);
    if (report.type !== 'unknown') this.reports++;
    if (this.inputs % 16 === 0) describeReport(report, MANNER);
  }
}
