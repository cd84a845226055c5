import type { Ax25Frame } from '../ax25/frame.js';
import { duplicateKey } from '../digipeating/digipeater.js';
import { explainPath } from '../digipeating/explain.js';

/** A frame of ours that was handed over and may come back. */
export interface Awaited {
  readonly id: string;
  readonly key: string;
  readonly sentAtMs: number;
  readonly heardFrom: readonly string[];
}

/** by: the digipeater that sent this copy; null when the frame came back unrepeated (a second receiver). */
export interface Echo {
  readonly id: string;
  readonly by: string | null;
  readonly afterMs: number;
}

/** How long a copy may be on its way; later it is somebody's delayed repeat and proves little. */
export const ECHO_WINDOW_MS = 120_000;

export function awaitEcho(
  awaited: readonly Awaited[],
  sent: { id: string; frame: Ax25Frame; sentAtMs: number },
): readonly Awaited[] {
  const current = awaited.filter((one) => sent.sentAtMs - one.sentAtMs < ECHO_WINDOW_MS);
  return [...current, { id: sent.id, key: duplicateKey(sent.frame), sentAtMs: sent.sentAtMs, heardFrom: [] }];
}

/** A frame heard: is it one of ours come back, and from whom? Each digipeater's copy counts once. */
export function hearEcho(
  awaited: readonly Awaited[],
  frame: Ax25Frame,
  heardAtMs: number,
): [readonly Awaited[], Echo | undefined] {
  // Nearly always nothing is awaited: the key is not worth making then.
  if (awaited.length === 0) return [awaited, undefined];
  const key = duplicateKey(frame);
  const sent = awaited.findLast((one) => one.key === key && heardAtMs - one.sentAtMs < ECHO_WINDOW_MS);
  if (!sent) return [awaited, undefined];
  const by = explainPath(frame.path).repeaters.at(-1) ?? null;
  const from = by ?? '';
  if (sent.heardFrom.includes(from)) return [awaited, undefined];
  const noted = awaited.map((one) => (one === sent ? { ...one, heardFrom: [...one.heardFrom, from] } : one));
  return [noted, { id: sent.id, by, afterMs: heardAtMs - sent.sentAtMs }];
}
