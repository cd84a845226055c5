import { decodeFrame } from '../ax25/frame.js';
import { isMalformed } from '../bits/malformed.js';
import { wayOf } from '../digipeating/way.js';
import { portVoice, type PortVoice, type Voice } from '../port-voice/port-voice.js';
import type { ChainFacts } from './causes.js';

/** One thing that came from a TNC: a frame, or what was none, with the reason (as the record keeps it). Times in ms since 1970. */
export interface HeardPiece {
  readonly atMs: number;
  readonly octets: Uint8Array;
  readonly trouble?: string | undefined;
}

export type HeardFacts = Pick<
  ChainFacts,
  | 'sinceOpenMs'
  | 'decoded'
  | 'broken'
  | 'brokenPerMinute'
  | 'silentMs'
  | 'usualGapMs'
  | 'text'
  | 'heardDigipeaters'
>;

/** What began as a frame and could not be read. */
const BROKEN: ReadonlySet<string> = new Set([
  'bad escape',
  'cut off',
  'too long',
  'not AX.25',
  'unknown command',
  'unexpected command',
  'bad parameter',
]);
const NO_FRAME = 'outside a frame';
const MINUTE_MS = 60_000;
/** Copies of one packet by several digipeaters come within this; a longer gap lies between two packets. */
const ONE_PACKET_MS = 5000;
/** A longer one is a pause of ours, not of the channel. */
const PAUSE_MS = 10 * MINUTE_MS;
/** Fewer gaps tell nothing. */
const LEAST_GAPS = 10;

/**
 * What one link tells of itself. heard: what came, oldest first, also of before: that says only what is usual, everything
 * else is judged by what came since the opening.
 */
export function heardFacts(heard: readonly HeardPiece[], openedAtMs: number, nowMs: number): HeardFacts {
  const now = heard.filter(({ atMs }) => atMs >= openedAtMs);
  const decoded = now.filter(isDecoded);
  const broken = now.filter(({ trouble }) => trouble !== undefined && BROKEN.has(trouble)).length;
  const usualGapMs = usualGap(heard.filter(isDecoded));
  const text = voiceInstead(now);
  const sinceOpenMs = Math.max(0, nowMs - openedAtMs);
  return {
    sinceOpenMs,
    decoded: decoded.length,
    broken,
    brokenPerMinute: broken / Math.max(1, sinceOpenMs / MINUTE_MS),
    silentMs: Math.max(0, nowMs - (decoded.at(-1)?.atMs ?? openedAtMs)),
    ...(usualGapMs === undefined ? {} : { usualGapMs }),
    ...(text ? { text } : {}),
    heardDigipeaters: heardDigipeaters(decoded),
  };
}

const isDecoded = ({ trouble }: HeardPiece): boolean => trouble === undefined || trouble === 'not APRS';

function usualGap(decoded: readonly HeardPiece[]): number | undefined {
  const gaps = decoded
    .slice(1)
    .map(({ atMs }, i) => atMs - (decoded[i]?.atMs ?? atMs))
    .filter((gapMs) => gapMs >= ONE_PACKET_MS && gapMs <= PAUSE_MS);
  if (gaps.length < LEAST_GAPS) return undefined;
  return gaps.reduce((sum, gapMs) => sum + gapMs, 0) / gaps.length;
}

/** Whoever repeated the copy that reached us was heard direct. */
function heardDigipeaters(decoded: readonly HeardPiece[]): string[] {
  const last = decoded.flatMap(({ octets }) => {
    const frame = decodeFrame(octets);
    return isMalformed(frame) ? [] : wayOf(frame.path).repeaters.slice(-1);
  });
  return [...new Set(last)];
}

/** So many scraps in a row, and no frame behind them, tell that it is not KISS that comes; of these voices one will do. */
const TELLING = 3;
const SURE: readonly Voice[] = ['command prompt', 'position sentences', 'packets as text'];
const LOOKED_AT = 8;
const CR = 0x0d;

/** What speaks at a link, if it is no KISS: heard since it was opened, oldest first. */
export function voiceInstead(heard: readonly HeardPiece[]): PortVoice | undefined {
  const run = heard.slice(heard.findLastIndex(({ trouble }) => trouble !== NO_FRAME) + 1).slice(-LOOKED_AT);
  if (run.length === 0) return undefined;
  const voice = portVoice(Uint8Array.from(run.flatMap(({ octets }) => [...octets, CR])));
  return run.length >= TELLING || SURE.includes(voice.voice) ? voice : undefined;
}
