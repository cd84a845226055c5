import { ADDRESS_OCTETS } from '../ax25/address.js';
import { decodeAddressField, type PathHop } from '../ax25/frame.js';
import { isMalformed } from '../bits/malformed.js';
import { toHex } from '../bits/octets.js';
import { explainPath } from '../digipeating/explain.js';

/** by: the digipeater that sent this copy; null when the frame came back unrepeated (a second receiver). */
export interface Echo {
  readonly id: string;
  readonly by: string | null;
  readonly afterMs: number;
}

/** How long a copy may be on its way; later it is somebody's delayed repeat and proves little. */
export const ECHO_WINDOW_MS = 120_000;

interface Awaited {
  readonly id: string;
  readonly sentAtMs: number;
  readonly heardFrom: Set<string | null>;
}

/**
 * The frames of ours that one link has sent within the last two minutes, however many, and who sent them on. A copy has the
 * same octets but for its path; of several alike the last is meant. Times in ms of a clock that only goes forward.
 */
export class EchoBook {
  /** By key, in the order of the last sending. */
  private readonly awaited = new Map<string, Awaited>();

  get size(): number {
    return this.awaited.size;
  }

  /** raw: the frame as it was sent, addresses to information. */
  note(id: string, raw: Uint8Array, sentAtMs: number): void {
    for (const [key, one] of this.awaited) {
      if (sentAtMs - one.sentAtMs < ECHO_WINDOW_MS) break;
      this.awaited.delete(key);
    }
    const key = withoutPath(raw)?.key;
    if (key === undefined) return;
    this.awaited.delete(key);
    this.awaited.set(key, { id, sentAtMs, heardFrom: new Set() });
  }

  /** A frame heard: is it one of ours come back, and from whom? Each digipeater's copy counts once. */
  hear(raw: Uint8Array, heardAtMs: number): Echo | undefined {
    // Nearly always nothing is awaited: the key is not worth making then.
    if (this.awaited.size === 0) return undefined;
    const heard = withoutPath(raw);
    const sent = heard && this.sentAs(heard.key, heardAtMs);
    if (!heard || !sent) return undefined;
    const by = explainPath(heard.path).repeaters.at(-1) ?? null;
    if (sent.heardFrom.has(by)) return undefined;
    sent.heardFrom.add(by);
    return { id: sent.id, by, afterMs: heardAtMs - sent.sentAtMs };
  }

  /** Which frame of ours this is, seen elsewhere than on this link, and how long after it was sent. */
  find(raw: Uint8Array, seenAtMs: number): Omit<Echo, 'by'> | undefined {
    const seen = withoutPath(raw);
    const sent = seen && this.sentAs(seen.key, seenAtMs);
    return sent && { id: sent.id, afterMs: seenAtMs - sent.sentAtMs };
  }

  private sentAs(key: string, atMs: number): Awaited | undefined {
    const sent = this.awaited.get(key);
    return sent && atMs - sent.sentAtMs < ECHO_WINDOW_MS ? sent : undefined;
  }
}

function withoutPath(raw: Uint8Array): { key: string; path: readonly PathHop[] } | undefined {
  const field = decodeAddressField(raw);
  if (isMalformed(field)) return undefined;
  const ends = raw.slice(0, 2 * ADDRESS_OCTETS);
  // The last bit tells whether a path follows (AX.25 v2.2, 3.12.2).
  ends[ends.length - 1] = (ends.at(-1) as number) & ~1;
  const rest = raw.subarray(field.octets);
  return { key: `${toHex(ends)} ${toHex(rest)}`, path: field.path };
}
