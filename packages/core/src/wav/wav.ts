import { malformed, type Malformed } from '../bits/malformed.js';

/** Sound files of the RIFF form (Multimedia Programming Interface and Data Specifications 1.0, 1991; extensible form 2001; from memory). */
export interface WavFormat {
  readonly rateHz: number;
  readonly channels: number;
  readonly bits: 8 | 16 | 24 | 32 | 64;
  readonly isFloat: boolean;
}

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
/** Streams that do not know their length write all ones, some nothing. */
const UNKNOWN_LENGTH = 0xffffffff;
const MOST_CHANNELS = 32;
/** A header may carry other chunks before the data; so many octets of them are passed over. */
const LONGEST_HEADER = 1 << 20;

/**
 * Octet machine: push() takes octets cut anywhere and returns the samples that they complete, −1 to 1, channel by channel
 * in turn. Before the header is whole it returns nothing; a file that cannot be read is Malformed, and stays so.
 */
export class WavDecoder {
  format: WavFormat | undefined;
  private header = new Uint8Array(0);
  private rest = new Uint8Array(0);
  private left = Infinity;
  private failure: Malformed | undefined;

  push(octets: Uint8Array): Float32Array | Malformed {
    if (this.failure) return this.failure;
    if (this.format) return this.samples(octets);
    this.header = joined(this.header, octets);
    const found = readHeader(this.header);
    if (found === undefined) {
      if (this.header.length <= LONGEST_HEADER) return new Float32Array(0);
      return this.fail(malformed('no sound data in the first megabyte', this.header.length));
    }
    if ('malformed' in found) return this.fail(found);
    this.format = found.format;
    this.left = found.length;
    const data = this.header.subarray(found.at);
    this.header = new Uint8Array(0);
    return this.samples(data);
  }

  /** The stream ended: why, if there was no sound in it. */
  end(): Malformed | undefined {
    return (
      this.failure ??
      (this.format ? undefined : malformed('the file ends before its sound', this.header.length))
    );
  }

  private fail(why: Malformed): Malformed {
    this.failure = why;
    return why;
  }

  private samples(octets: Uint8Array): Float32Array {
    const format = this.format as WavFormat;
    const all = joined(this.rest, octets.subarray(0, Math.max(0, this.left)));
    this.left -= octets.length;
    const size = (format.bits / 8) * format.channels;
    const whole = all.length - (all.length % size);
    this.rest = all.slice(whole);
    return samplesOf(all.subarray(0, whole), format);
  }
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(a.length + b.length);
  all.set(a);
  all.set(b, a.length);
  return all;
}

interface Header {
  readonly format: WavFormat;
  /** Where the data begins, and how many octets it says it has. */
  readonly at: number;
  readonly length: number;
}

/** undefined: more octets are needed. */
function readHeader(octets: Uint8Array): Header | Malformed | undefined {
  if (octets.length < 12) return isBeginOf(octets, 'RIFF') ? undefined : noWav(0);
  if (!isAt(octets, 0, 'RIFF') || !isAt(octets, 8, 'WAVE')) return noWav(0);
  const view = new DataView(octets.buffer, octets.byteOffset, octets.byteLength);
  let format: WavFormat | undefined;
  for (let at = 12; at + 8 <= octets.length;) {
    const length = view.getUint32(at + 4, true);
    if (isAt(octets, at, 'data')) {
      if (!format) return malformed('the sound comes before its format', at);
      const isUnknown = length === UNKNOWN_LENGTH || length === 0;
      return { format, at: at + 8, length: isUnknown ? Infinity : length };
    }
    if (isAt(octets, at, 'fmt ')) {
      if (at + 8 + Math.min(length, 40) > octets.length) return undefined;
      const read = readFormat(view, at + 8, length);
      if ('malformed' in read) return read;
      format = read;
    }
    // Chunks begin at even octets.
    at += 8 + length + (length & 1);
  }
  return undefined;
}

const noWav = (at: number): Malformed => malformed('not a sound file of the WAV form', at);

const isAt = (octets: Uint8Array, at: number, name: string): boolean =>
  [...name].every((letter, i) => octets[at + i] === letter.charCodeAt(0));

const isBeginOf = (octets: Uint8Array, name: string): boolean =>
  [...name].every((letter, i) => i >= octets.length || octets[i] === letter.charCodeAt(0));

function readFormat(view: DataView, at: number, length: number): WavFormat | Malformed {
  if (length < 16) return malformed('the format is cut short', at);
  const given = view.getUint16(at, true);
  // The extensible form keeps the old code in the first octets of its subformat.
  const code = given === EXTENSIBLE && length >= 26 ? view.getUint16(at + 24, true) : given;
  const channels = view.getUint16(at + 2, true);
  const rateHz = view.getUint32(at + 4, true);
  const bits = view.getUint16(at + 14, true);
  const isFloat = code === FLOAT;
  const isKnown = isFloat ? bits === 32 || bits === 64 : code === PCM && [8, 16, 24, 32].includes(bits);
  if (!isKnown) return malformed(`sound of kind ${code} with ${bits} bits is not read`, at);
  if (channels < 1 || channels > MOST_CHANNELS) return malformed(`${channels} channels are not read`, at + 2);
  if (rateHz < 1) return malformed('a sample rate of 0', at + 4);
  return { rateHz, channels, bits: bits as WavFormat['bits'], isFloat };
}

/** 8 bits are unsigned, the others two's complement; the low octet first. */
function samplesOf(octets: Uint8Array, { bits, isFloat }: WavFormat): Float32Array {
  const view = new DataView(octets.buffer, octets.byteOffset, octets.byteLength);
  const size = bits / 8;
  const samples = new Float32Array(octets.length / size);
  const read = readerOf(view, bits, isFloat);
  for (let i = 0; i < samples.length; i++) samples[i] = read(i * size);
  return samples;
}

function readerOf(view: DataView, bits: WavFormat['bits'], isFloat: boolean): (at: number) => number {
  switch (bits) {
    case 8:
      return (at) => (view.getUint8(at) - 128) / 128;
    case 16:
      return (at) => view.getInt16(at, true) / 0x8000;
    case 24:
      return (at) => ((view.getInt16(at + 1, true) << 8) | view.getUint8(at)) / 0x800000;
    case 32:
      return isFloat ? (at) => view.getFloat32(at, true) : (at) => view.getInt32(at, true) / 0x80000000;
    case 64:
      return (at) => view.getFloat64(at, true);
  }
}

const HEADER_OCTETS = 44;

/** The header of a file of 16-bit samples. dataOctets: of all that follows. */
export function wavHeader(rateHz: number, channels: number, dataOctets: number): Uint8Array {
  const octets = new Uint8Array(HEADER_OCTETS);
  const view = new DataView(octets.buffer);
  const put = (at: number, name: string): void =>
    [...name].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)));
  put(0, 'RIFF');
  view.setUint32(4, HEADER_OCTETS - 8 + dataOctets, true);
  put(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, PCM, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, rateHz, true);
  view.setUint32(28, rateHz * channels * 2, true);
  view.setUint16(32, channels * 2, true);
  view.setUint16(34, 16, true);
  put(36, 'data');
  view.setUint32(40, dataOctets, true);
  return octets;
}

/** Samples as 16 bits, low octet first; beyond full scale they are held there. */
export function samples16(samples: Float32Array): Uint8Array {
  const octets = new Uint8Array(2 * samples.length);
  const view = new DataView(octets.buffer);
  samples.forEach((sample, i) =>
    view.setInt16(2 * i, Math.max(-0x8000, Math.min(0x7fff, Math.round(sample * 0x8000))), true),
  );
  return octets;
}
