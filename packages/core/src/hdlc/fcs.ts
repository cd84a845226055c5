/** CRC-16/X-25, the frame check sequence of ISO/IEC 13239: reflected polynomial 1021, all ones in, complement out. */
const TABLE = Uint16Array.from({ length: 256 }, (_, octet) => {
  let remainder = octet;
  for (let bit = 0; bit < 8; bit++) remainder = remainder & 1 ? (remainder >> 1) ^ 0x8408 : remainder >> 1;
  return remainder;
});

/** The FCS of these octets; it is sent low octet first. */
export function fcs(octets: Uint8Array): number {
  return fcsRemainder(octets) ^ 0xffff;
}

/** The register before the final complement: 0xF0B8 over a frame and its good FCS. */
export function fcsRemainder(octets: Uint8Array): number {
  let register = 0xffff;
  for (let i = 0; i < octets.length; i++)
    register = (register >> 8) ^ (TABLE[(register ^ (octets[i] as number)) & 0xff] as number);
  return register;
}

const GOOD_REMAINDER = 0xf0b8;

/** Whether the last two octets are the FCS of those before. */
export function hasGoodFcs(octets: Uint8Array): boolean {
  return fcsRemainder(octets) === GOOD_REMAINDER;
}

/** The same octets followed by their FCS. */
export function withFcs(octets: Uint8Array): Uint8Array {
  const whole = new Uint8Array(octets.length + 2);
  const check = fcs(octets);
  whole.set(octets);
  whole[octets.length] = check & 0xff;
  whole[octets.length + 1] = check >> 8;
  return whole;
}
