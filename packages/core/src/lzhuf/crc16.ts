/** Polynomial 1021 hex, beginning with 0, bits as they come (the check of "123456789" is 31C3). */
const TABLE = Uint16Array.from({ length: 256 }, (_, octet) => {
  let crc = octet << 8;
  for (let bit = 0; bit < 8; bit++) crc = (crc << 1) ^ (crc & 0x8000 ? 0x1021 : 0);
  return crc;
});

export function crc16(octets: Uint8Array): number {
  let crc = 0;
  for (const octet of octets) crc = ((crc << 8) & 0xffff) ^ (TABLE[(crc >> 8) ^ octet] as number);
  return crc;
}
