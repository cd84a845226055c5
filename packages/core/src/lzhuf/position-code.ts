/**
 * How far back a match lies, less one: its upper six bits by a fixed prefix code, its lower six as they are (lzhuf.c,
 * p_len and p_code). So many values have a code of so many bits, the smallest first.
 */
const CODES_BY_LENGTH: readonly (readonly [bits: number, values: number])[] = [
  [3, 1],
  [4, 3],
  [5, 8],
  [6, 12],
  [7, 24],
  [8, 16],
];
const LONGEST = 8;

interface PrefixCode {
  readonly bits: number;
  readonly code: number;
}

/** Canonical: each code is the next after the one before it. */
export const POSITION_CODES: readonly PrefixCode[] = CODES_BY_LENGTH.flatMap(([bits, values]) =>
  Array.from({ length: values }, () => bits),
).reduce<PrefixCode[]>((codes, bits) => {
  const last = codes.at(-1);
  const code = last ? (last.code + 1) << (bits - last.bits) : 0;
  return [...codes, { bits, code }];
}, []);

/** By the next eight bits: the value whose code they begin with. */
const VALUE_BY_OCTET = Uint8Array.from({ length: 1 << LONGEST }, (_, octet) =>
  POSITION_CODES.findIndex(({ bits, code }) => octet >> (LONGEST - bits) === code),
);

/** Reads a position, 0 to 4095. Undefined when the bits run out. */
export function readPosition(bit: () => 0 | 1 | undefined): number | undefined {
  let code = 0;
  for (let bits = 1; bits <= LONGEST; bits++) {
    const next = bit();
    if (next === undefined) return undefined;
    code = (code << 1) | next;
    const value = VALUE_BY_OCTET[(code << (LONGEST - bits)) & 0xff] as number;
    if (POSITION_CODES[value]?.bits === bits) return withLower(value, bit);
  }
  return undefined;
}

function withLower(upper: number, bit: () => 0 | 1 | undefined): number | undefined {
  let position = upper;
  for (let i = 0; i < 6; i++) {
    const next = bit();
    if (next === undefined) return undefined;
    position = (position << 1) | next;
  }
  return position;
}

export function writePosition(position: number, bit: (one: number) => void): void {
  const { bits, code } = POSITION_CODES[position >> 6] as PrefixCode;
  for (let i = bits - 1; i >= 0; i--) bit((code >> i) & 1);
  for (let i = 5; i >= 0; i--) bit((position >> i) & 1);
}
