import { malformed, type Malformed } from '../bits/malformed.js';

/** Control fields of AX.25 v2.2 (TAPR/ARRL 1998), "Control-field formats". P/F is 0x10 and left out of the codes. */
const SUPERVISORY = { RR: 0x01, RNR: 0x05, REJ: 0x09, SREJ: 0x0d } as const;
const UNNUMBERED = {
  SABM: 0x2f,
  SABME: 0x6f,
  DISC: 0x43,
  DM: 0x0f,
  UA: 0x63,
  FRMR: 0x87,
  UI: 0x03,
  XID: 0xaf,
  TEST: 0xe3,
} as const;
const POLL_FINAL = 0x10;

export type SupervisoryKind = keyof typeof SUPERVISORY;
export type UnnumberedKind = keyof typeof UNNUMBERED;
/** ns, nr: 0–7 in modulo 8, 0–127 in modulo 128. pf: the poll or final bit. */
export type Control =
  | { readonly kind: 'I'; readonly pf: boolean; readonly ns: number; readonly nr: number }
  | { readonly kind: SupervisoryKind; readonly pf: boolean; readonly nr: number }
  | { readonly kind: UnnumberedKind; readonly pf: boolean };
export type Modulo = 8 | 128;
export const FRAME_KINDS: readonly Control['kind'][] = [
  'I',
  ...(Object.keys(SUPERVISORY) as SupervisoryKind[]),
  ...(Object.keys(UNNUMBERED) as UnnumberedKind[]),
];

const supervisoryByCode = byCode(SUPERVISORY);
const unnumberedByCode = byCode(UNNUMBERED);

function byCode<Kind extends string>(codes: Record<Kind, number>): ReadonlyMap<number, Kind> {
  return new Map((Object.keys(codes) as Kind[]).map((kind) => [codes[kind], kind]));
}

export function carriesPid(kind: Control['kind']): boolean {
  return kind === 'I' || kind === 'UI';
}

/** One octet, or two for I and S frames in modulo 128. */
export function encodeControl(control: Control, modulo: Modulo = 8): number[] {
  if (control.kind === 'I') {
    return modulo === 8
      ? [(control.nr << 5) | (control.pf ? POLL_FINAL : 0) | (control.ns << 1)]
      : [control.ns << 1, (control.nr << 1) | (control.pf ? 1 : 0)];
  }
  if ('nr' in control) {
    const code = SUPERVISORY[control.kind];
    return modulo === 8
      ? [(control.nr << 5) | (control.pf ? POLL_FINAL : 0) | code]
      : [code, (control.nr << 1) | (control.pf ? 1 : 0)];
  }
  return [UNNUMBERED[control.kind] | (control.pf ? POLL_FINAL : 0)];
}

/** Reads the control field at `at`; `length` tells how many octets it took. */
export function decodeControl(
  octets: Uint8Array,
  at: number,
  modulo: Modulo = 8,
): { control: Control; length: number } | Malformed {
  const first = octets[at];
  if (first === undefined) return malformed('the control field is missing', at);
  if ((first & 3) === 3) {
    const kind = unnumberedByCode.get(first & ~POLL_FINAL);
    if (!kind) return malformed(`control field ${first.toString(16)} has no meaning in AX.25`, at);
    return { control: { kind, pf: (first & POLL_FINAL) !== 0 }, length: 1 };
  }
  return modulo === 8 ? numbered8(first, at) : numbered128(first, octets[at + 1], at);
}

function numbered8(first: number, at: number): { control: Control; length: number } | Malformed {
  const pf = (first & POLL_FINAL) !== 0;
  const nr = first >> 5;
  if ((first & 1) === 0) return { control: { kind: 'I', pf, ns: (first >> 1) & 7, nr }, length: 1 };
  const kind = supervisoryByCode.get(first & 0x0f);
  if (!kind) return malformed(`control field ${first.toString(16)} has no meaning in AX.25`, at);
  return { control: { kind, pf, nr }, length: 1 };
}

function numbered128(
  first: number,
  second: number | undefined,
  at: number,
): { control: Control; length: number } | Malformed {
  if (second === undefined) return malformed('the second control octet is missing', at + 1);
  const pf = (second & 1) !== 0;
  const nr = second >> 1;
  if ((first & 1) === 0) return { control: { kind: 'I', pf, ns: first >> 1, nr }, length: 2 };
  const kind = supervisoryByCode.get(first);
  if (!kind) return malformed(`control field ${first.toString(16)} has no meaning in AX.25`, at);
  return { control: { kind, pf, nr }, length: 2 };
}
