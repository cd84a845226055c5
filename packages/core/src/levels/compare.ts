import type { Heard } from './heard.js';

/** Chance that a packet on the channel was decoded: of so many, and between which bounds it lies (Wilson 1927, 95 %). */
export interface Success {
  readonly read: number;
  readonly of: number;
  readonly share: number;
  readonly from: number;
  readonly to: number;
}

/** Of a normal distribution, 95 % two-sided; and 80 % one-sided, for how many more are needed. */
const Z95 = 1.96;
const Z80 = 0.84;
/** More is not asked for: nobody sits there for a day. */
const MOST_NEEDED = 1000;
const LEAST = 5;

export function successOf({ carriers, unread }: Pick<Heard, 'carriers' | 'unread'>): Success {
  return success(carriers - unread, carriers);
}

export function success(read: number, of: number): Success {
  if (of === 0) return { read, of, share: 0, from: 0, to: 1 };
  const share = read / of;
  const square = Z95 * Z95;
  const middle = (share + square / (2 * of)) / (1 + square / of);
  const half = (Z95 * Math.sqrt((share * (1 - share)) / of + square / (4 * of * of))) / (1 + square / of);
  return { read, of, share, from: Math.max(0, middle - half), to: Math.min(1, middle + half) };
}

/** better: which of the two, if it can be told. needed: packets on each side, if it cannot yet. */
export interface Comparison {
  readonly a: Success;
  readonly b: Success;
  readonly better?: 'a' | 'b';
  readonly needed?: number;
}

/** Two ways of hearing the same channel, by what each decodes of the packets that it notices. */
export function compare(a: Success, b: Success): Comparison {
  const apart = Math.abs(a.share - b.share);
  const spread = a.share * (1 - a.share) + b.share * (1 - b.share);
  const pooled = (a.read + b.read) / Math.max(1, a.of + b.of);
  const error = Math.sqrt(pooled * (1 - pooled) * (1 / Math.max(1, a.of) + 1 / Math.max(1, b.of)));
  const isTold = a.of >= LEAST && b.of >= LEAST && error > 0 && apart / error > Z95;
  if (isTold) return { a, b, better: a.share > b.share ? 'a' : 'b' };
  const needed = apart === 0 ? MOST_NEEDED : Math.ceil(((Z95 + Z80) ** 2 * spread) / apart ** 2);
  return { a, b, needed: Math.max(LEAST, Math.min(MOST_NEEDED, needed)) };
}

/** a and b: how the two are called, “cable” and “speaker” say. */
export function comparisonWords(
  { a, b, better, needed = 0 }: Comparison,
  names: Record<'a' | 'b', string>,
): string {
  if (better) {
    const other = better === 'a' ? 'b' : 'a';
    return `${capital(names[better])} is better: it decodes ${percent(better === 'a' ? a : b)} of the packets that it notices, ${names[other]} ${percent(better === 'a' ? b : a)}.`;
  }
  if (needed >= MOST_NEEDED)
    return `No difference between ${names.a} and ${names.b} that anybody would notice.`;
  const most = Math.max(0, needed - Math.min(a.of, b.of));
  return `Not to be told apart yet: listen to some ${most > 0 ? most : LEAST} packets more on each side.`;
}

const percent = ({ share }: Success): string => `${Math.round(100 * share)} %`;
const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
