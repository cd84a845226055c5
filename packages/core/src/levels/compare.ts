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
/** A tenth of the packets more or less is what somebody would notice. */
const NOTICED = 0.1;
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

/** better: which of the two, if it can be told. isSame: neither, as far as matters. needed: so many packets more on each side. */
export interface Comparison {
  readonly a: Success;
  readonly b: Success;
  readonly better?: 'a' | 'b';
  readonly isSame?: boolean;
  readonly needed?: number;
}

/** Two ways of hearing the same channel, by what each decodes of the packets that it notices. */
export function compare(a: Success, b: Success): Comparison {
  const apart = Math.abs(a.share - b.share);
  const pooled = (a.read + b.read) / Math.max(1, a.of + b.of);
  const error = Math.sqrt(pooled * (1 - pooled) * (1 / Math.max(1, a.of) + 1 / Math.max(1, b.of)));
  const least = Math.min(a.of, b.of);
  if (least >= LEAST && error > 0 && apart / error > Z95)
    return { a, b, better: a.share > b.share ? 'a' : 'b' };
  // Smaller differences are not looked for; and that all of a few were read does not say that all ever are.
  const spread = [a, b].reduce((sum, { share }) => sum + likely(share) * (1 - likely(share)), 0);
  const needed = Math.max(LEAST, Math.ceil(((Z95 + Z80) ** 2 * spread) / Math.max(apart, NOTICED) ** 2));
  if (apart < NOTICED && least >= needed) return { a, b, isSame: true };
  return { a, b, needed: Math.max(LEAST, needed - least) };
}

const likely = (share: number): number => Math.min(0.95, Math.max(0.05, share));

/** a and b: how the two are called, “cable” and “speaker” say. */
export function comparisonWords(
  { a, b, better, isSame, needed = 0 }: Comparison,
  names: Record<'a' | 'b', string>,
): string {
  if (better) {
    const other = better === 'a' ? 'b' : 'a';
    return `${capital(names[better])} is better: it decodes ${percent(better === 'a' ? a : b)} of the packets that it notices, ${names[other]} ${percent(better === 'a' ? b : a)}.`;
  }
  if (isSame) return `No difference between ${names.a} and ${names.b} that anybody would notice.`;
  return `Not to be told apart yet: listen to some ${needed} packets more on each side.`;
}

const percent = ({ share }: Success): string => `${Math.round(100 * share)} %`;
const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
