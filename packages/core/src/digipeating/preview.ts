import type { Ax25Frame } from '../ax25/frame.js';
import { duplicateKey, IDLE_DIGIPEATER, step, type DigipeaterState } from './digipeater.js';
import type { DigipeaterRules } from './service.js';
import { wayOf } from './way.js';

/** What a digipeater would have done with what was heard. */
export interface RepeatPreview {
  /** Packets heard, copies not counted again. */
  readonly heard: number;
  readonly wouldRepeat: number;
  /** Of those, how many somebody else repeated too. */
  readonly othersToo: number;
  /** Whose packets nobody else repeated, the most first. */
  readonly gained: readonly { readonly call: string; readonly count: number }[];
}

/** heard: in order of time. As if nothing was held back: a viscous one repeats no more than this. */
export function previewRepeats(
  heard: readonly { readonly frame: Ax25Frame; readonly atMs: number }[],
  rules: DigipeaterRules,
): RepeatPreview {
  const { viscousMs: _, ...atOnce } = rules;
  let state: DigipeaterState = IDLE_DIGIPEATER;
  /** By packet: when it was last heard, and what became of it. */
  const packets = new Map<string, { source: string; lastAtMs: number; isMine: boolean; isOthers: boolean }>();
  const ended: { source: string; isMine: boolean; isOthers: boolean }[] = [];
  for (const { frame, atMs } of heard) {
    if (frame.control.kind !== 'UI' || frame.source === rules.call) continue;
    const key = duplicateKey(frame);
    let packet = packets.get(key);
    if (!packet || atMs - packet.lastAtMs >= rules.duplicateWindowMs) {
      if (packet) ended.push(packet);
      packet = { source: frame.source, lastAtMs: atMs, isMine: false, isOthers: false };
      packets.set(key, packet);
    }
    packet.lastAtMs = atMs;
    if (wayOf(frame.path).hops > 0) packet.isOthers = true;
    const [next, effects] = step(state, { kind: 'heard', frame }, { atMs, rules: atOnce });
    state = next;
    if (effects.some(({ kind }) => kind === 'repeat')) packet.isMine = true;
  }
  const all = [...ended, ...packets.values()];
  const mine = all.filter(({ isMine }) => isMine);
  const counts = new Map<string, number>();
  for (const { source, isOthers } of mine) if (!isOthers) counts.set(source, (counts.get(source) ?? 0) + 1);
  return {
    heard: all.length,
    wouldRepeat: mine.length,
    othersToo: mine.filter(({ isOthers }) => isOthers).length,
    gained: [...counts].map(([call, count]) => ({ call, count })).sort((a, b) => b.count - a.count),
  };
}

/** From this share of packets on that nobody else repeats it is worth its air time (our judgement). */
const WORTH = 0.1;

/** `in the last hour it would have repeated 14 of 203; 12 of them others repeated too: little gain`. */
export function previewInWords({ heard, wouldRepeat, othersToo }: RepeatPreview): string {
  if (heard === 0) return 'nothing was heard in the last hour: nothing can be said';
  const alone = wouldRepeat - othersToo;
  const gain = alone === 0 ? 'no gain' : alone / heard < WORTH ? 'little gain' : 'a gain';
  return `in the last hour it would have repeated ${wouldRepeat} of ${heard}; ${othersToo} of them others repeated too: ${gain}`;
}
