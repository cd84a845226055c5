import { concatOctets, fromLatin1, toLatin1 } from '../bits/octets.js';
import { start, stop, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';
import { safeFileName, type NamedFile } from './text-file.js';

/**
 * YAPP, binary files over a connected packet session, as published by its author in 1986 (from memory): packets of a type,
 * a length or number, and that many octets.
 *
 *   sender                          receiver
 *   SI  05 01  ────────────────>
 *              <──────────────── RR 06 01
 *   HD  01 n name 0 size 0  ───>
 *              <──────────────── RF 06 02
 *   DT  02 n data (0: 256)  ───>  …
 *   EF  03 01  ────────────────>
 *              <──────────────── AF 06 03
 *   ET  04 01  ────────────────>
 *              <──────────────── AT 06 04
 *   either: CN 18 n reason, answered by CA 06 05; NR 15 n reason: not ready
 */
export type YappState =
  | {
      readonly phase: 'sending';
      readonly awaits: 'RR' | 'RF' | 'AF' | 'AT';
      readonly file: NamedFile;
      readonly heard: Uint8Array;
    }
  | {
      readonly phase: 'receiving';
      readonly awaits: 'SI' | 'HD' | 'DT' | 'ET';
      readonly name: string;
      readonly size: number | undefined;
      readonly parts: readonly Uint8Array[];
      readonly octets: number;
      readonly heard: Uint8Array;
    }
  | { readonly phase: 'ended' };

export type YappEvent =
  | { readonly kind: 'heard'; readonly octets: Uint8Array }
  | { readonly kind: 'cancel' }
  | TimerEvent;

export type YappEffect =
  | { readonly kind: 'send'; readonly octets: Uint8Array }
  | { readonly kind: 'received'; readonly file: NamedFile }
  /** ok: all of it is across. */
  | { readonly kind: 'ended'; readonly ok: boolean; readonly words: string }
  | TimerEffect<'answer'>;

/** Packet links are slow, and a whole file is queued before its end is answered (common practice, no source). */
export const ANSWER_WITHIN_MS = 10 * 60_000;
/** A file that somebody sends us. */
export const MOST_OCTETS = 2_000_000;
const BLOCK = 250;

const SI = Uint8Array.of(0x05, 0x01);
const EF = Uint8Array.of(0x03, 0x01);
const ET = Uint8Array.of(0x04, 0x01);
const [RR, RF, AF, AT, CA] = [1, 2, 3, 4, 5].map((code) => Uint8Array.of(0x06, code)) as [
  Uint8Array,
  Uint8Array,
  Uint8Array,
  Uint8Array,
  Uint8Array,
];
const reasoned = (type: number, words: string): Uint8Array =>
  concatOctets(Uint8Array.of(type, words.length), fromLatin1(words));

type Outcome = Stepped<YappState, YappEffect>;
const WAIT = start('answer' as const, ANSWER_WITHIN_MS);
const send = (octets: Uint8Array): YappEffect => ({ kind: 'send', octets });
const NOTHING = new Uint8Array();

/** The first step of a file that goes out, and of one that is awaited. */
export function sendByYapp(file: NamedFile): Outcome {
  return [{ phase: 'sending', awaits: 'RR', file, heard: NOTHING }, [send(SI), WAIT]];
}

export function receiveByYapp(): Outcome {
  return [
    { phase: 'receiving', awaits: 'SI', name: '', size: undefined, parts: [], octets: 0, heard: NOTHING },
    [WAIT],
  ];
}

export function step(state: YappState, event: YappEvent): Outcome {
  if (state.phase === 'ended') return [state, []];
  switch (event.kind) {
    case 'cancel':
      return end(false, 'given up here', [send(reasoned(0x18, 'Cancelled'))]);
    case 'timer':
      return end(false, 'the other end does not go on', [send(reasoned(0x18, 'Timed out'))]);
    case 'heard':
      return heard(state, event.octets);
  }
}

function end(ok: boolean, words: string, before: readonly YappEffect[] = []): Outcome {
  return [{ phase: 'ended' }, [...before, stop('answer'), { kind: 'ended', ok, words }]];
}

type Active = Exclude<YappState, { phase: 'ended' }>;

function heard(begun: Active, octets: Uint8Array): Outcome {
  let state: YappState = { ...begun, heard: concatOctets(begun.heard, octets) };
  const effects: YappEffect[] = [];
  while (state.phase !== 'ended') {
    const packet = packetAt(state.heard);
    if (packet === 'more') break;
    const rest = state.heard.subarray(packet === 'noise' ? 1 : packet.length).slice();
    const before: Active = { ...state, heard: rest };
    const [next, more]: Outcome = packet === 'noise' ? [before, []] : take(before, packet);
    state = next;
    effects.push(...more);
  }
  return [state, effects];
}

interface Packet {
  readonly type: number;
  readonly code: number;
  readonly info: Uint8Array;
  readonly length: number;
}

const HAS_INFO = [0x01, 0x02, 0x15, 0x18, 0x10];

function packetAt(octets: Uint8Array): Packet | 'more' | 'noise' {
  const [type, code] = octets;
  if (type === undefined) return 'more';
  if (!HAS_INFO.includes(type) && ![0x03, 0x04, 0x05, 0x06].includes(type)) return 'noise';
  if (code === undefined) return 'more';
  if (!HAS_INFO.includes(type)) return { type, code, info: NOTHING, length: 2 };
  const length = 2 + (type === 0x02 && code === 0 ? 256 : code);
  return octets.length < length ? 'more' : { type, code, info: octets.slice(2, length), length };
}

function take(state: Active, packet: Packet): Outcome {
  if (packet.type === 0x18) return end(false, `the other end gave up: ${wordsOf(packet)}`, [send(CA)]);
  if (packet.type === 0x15) return end(false, `the other end refused: ${wordsOf(packet)}`);
  return state.phase === 'sending' ? takeAnswer(state, packet) : takePart(state, packet);
}

const wordsOf = ({ info }: Packet): string =>
  toLatin1(info)
    .replace(/[^ -~]/g, '')
    .trim() || 'no reason given';

function takeAnswer(state: Extract<YappState, { phase: 'sending' }>, { type, code }: Packet): Outcome {
  const { awaits, file } = state;
  if (type !== 0x06) return [state, []];
  if (awaits === 'RR' && code === 1) return [{ ...state, awaits: 'RF' }, [send(header(file)), WAIT]];
  // Who answers the call with RF wants no header (for terminals that know where to put it).
  if ((awaits === 'RF' || awaits === 'RR') && code === 2)
    return [{ ...state, awaits: 'AF' }, [...blocks(file).map(send), send(EF), WAIT]];
  if (awaits === 'AF' && code === 3) return [{ ...state, awaits: 'AT' }, [send(ET), WAIT]];
  // All of it is there; the last answer is a courtesy.
  if (awaits === 'AT' && code === 4) return end(true, `${file.octets.length} octets sent`);
  return [state, []];
}

function header({ name, octets }: NamedFile): Uint8Array {
  const info = fromLatin1(`${safeFileName(name)}\0${octets.length}\0`);
  return concatOctets(Uint8Array.of(0x01, info.length), info);
}

function blocks({ octets }: NamedFile): Uint8Array[] {
  return Array.from({ length: Math.ceil(octets.length / BLOCK) }, (_, i) => {
    const data = octets.subarray(i * BLOCK, (i + 1) * BLOCK);
    return concatOctets(Uint8Array.of(0x02, data.length), data);
  });
}

function takePart(state: Extract<YappState, { phase: 'receiving' }>, packet: Packet): Outcome {
  const { awaits } = state;
  switch (packet.type) {
    case 0x05:
      return awaits === 'SI' ? [{ ...state, awaits: 'HD' }, [send(RR), WAIT]] : [state, []];
    case 0x01:
      return awaits === 'HD' || awaits === 'ET' ? takeHeader(state, packet.info) : [state, []];
    case 0x02:
      return awaits === 'DT' ? takeData(state, packet.info) : [state, []];
    case 0x03:
      return awaits === 'DT' ? takeEnd(state) : [state, []];
    case 0x04:
      return awaits === 'ET' ? end(true, 'all of it received', [send(AT)]) : [state, []];
    default:
      return [state, []];
  }
}

function takeHeader(state: Extract<YappState, { phase: 'receiving' }>, info: Uint8Array): Outcome {
  const [name = '', size = ''] = toLatin1(info).split('\0');
  const octets = /^\d+$/.test(size) ? Number(size) : undefined;
  if ((octets ?? 0) > MOST_OCTETS)
    return end(false, `${octets} octets are more than ${MOST_OCTETS}`, [
      send(reasoned(0x15, 'File too long')),
    ]);
  return [
    { ...state, awaits: 'DT', name: safeFileName(name), size: octets, parts: [], octets: 0 },
    [send(RF), WAIT],
  ];
}

function takeData(state: Extract<YappState, { phase: 'receiving' }>, info: Uint8Array): Outcome {
  const octets = state.octets + info.length;
  if (octets > MOST_OCTETS)
    return end(false, `more than ${MOST_OCTETS} octets`, [send(reasoned(0x18, 'File too long'))]);
  return [{ ...state, parts: [...state.parts, info], octets }, [WAIT]];
}

function takeEnd(state: Extract<YappState, { phase: 'receiving' }>): Outcome {
  const { name, size, parts, octets } = state;
  if (size !== undefined && size !== octets)
    return end(false, `${octets} octets came of ${size}`, [send(reasoned(0x18, 'Length differs'))]);
  const file = { name, octets: concatOctets(...parts) };
  return [{ ...state, awaits: 'ET', parts: [], octets: 0 }, [{ kind: 'received', file }, send(AF), WAIT]];
}

/** Somebody at the other end begins to send (SI), at the end of what came. */
export const beginsYapp = (octets: Uint8Array): boolean =>
  octets.length >= 2 && octets.at(-2) === SI[0] && octets.at(-1) === SI[1];
