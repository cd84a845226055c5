import { concatOctets, fromLatin1, toLatin1 } from '../bits/octets.js';

/**
 * A message in blocks (FBB compressed forwarding): SOH, length, title NUL offset NUL; then STX, length (0 is 256), data, as often
 * as needed; EOT and the checksum, the two's complement of the sum of the data's octets.
 */
const SOH = 0x01;
const STX = 0x02;
const EOT = 0x04;
const BLOCK_OCTETS = 250;
const LONGEST_TITLE = 80;

/** offset: where in the container the data goes on. Then its head is sent again, and what follows from there. */
export function encodeBlocks(
  title: string,
  packed: Uint8Array,
  offset: number,
  headOctets: number,
): Uint8Array {
  const cutTitle = title.replace(/[^\x20-\xff]/g, '?').slice(0, LONGEST_TITLE);
  const head = fromLatin1(`${cutTitle}\0${offset}\0`);
  const data = offset > 0 ? concatOctets(packed.subarray(0, headOctets), packed.subarray(offset)) : packed;
  const blocks: Uint8Array[] = [];
  for (let at = 0; at < data.length; at += BLOCK_OCTETS) {
    const part = data.subarray(at, at + BLOCK_OCTETS);
    blocks.push(Uint8Array.of(STX, part.length), part);
  }
  const sum = data.reduce((all, octet) => all + octet, 0);
  return concatOctets(Uint8Array.of(SOH, head.length), head, ...blocks, Uint8Array.of(EOT, -sum & 0xff));
}

export type BlockPart =
  | { readonly kind: 'title'; readonly title: string; readonly offset: number }
  | { readonly kind: 'data'; readonly octets: Uint8Array }
  | { readonly kind: 'end'; readonly checksum: number }
  | { readonly kind: 'wrong'; readonly octet: number };

/** The next part of what has come, and how many octets it takes; undefined until it is whole. Line ends before a title are skipped. */
export function nextPart(
  input: Uint8Array,
): { readonly part: BlockPart; readonly taken: number } | undefined {
  let from = 0;
  while (input[from] === 0x0d || input[from] === 0x0a) from++;
  const mark = input[from];
  const count = input[from + 1];
  if (mark === undefined) return undefined;
  if (mark !== SOH && mark !== STX && mark !== EOT)
    return { part: { kind: 'wrong', octet: mark }, taken: from + 1 };
  if (count === undefined) return undefined;
  if (mark === EOT) return { part: { kind: 'end', checksum: count }, taken: from + 2 };
  const length = mark === STX && count === 0 ? 256 : count;
  const end = from + 2 + length;
  if (input.length < end) return undefined;
  const octets = input.slice(from + 2, end);
  if (mark === STX) return { part: { kind: 'data', octets }, taken: end };
  const [title = '', offset = ''] = toLatin1(octets).split('\0');
  if (!/^\s*\d{1,8}\s*$/.test(offset)) return { part: { kind: 'wrong', octet: mark }, taken: end };
  return { part: { kind: 'title', title, offset: Number(offset) }, taken: end };
}

/** Sum of data octets so far and the checksum at the end come to 0. */
export const isChecked = (sum: number, checksum: number): boolean => ((sum + checksum) & 0xff) === 0;
