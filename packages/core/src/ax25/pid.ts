/**
 * Protocol identifiers of I and UI frames (AX.25 v2.2, "PID field"); the standard's names of network programs are left
 * out. FF says that the identifier goes on in the next octet, which is then the first of the information field.
 */
const NAMES: Readonly<Record<number, string>> = {
  0x01: 'ISO 8208',
  0x06: 'TCP/IP, compressed',
  0x07: 'TCP/IP, uncompressed',
  0x08: 'a segment of something longer',
  0xcc: 'internet protocol',
  0xcd: 'address resolution',
  0xf0: 'no layer 3',
  0xff: 'identifier in the next octet',
};
/** Both middle bits 01 or 10: AX.25's own layer 3. */
const LAYER_3_BITS = 0x30;

export function describePid(pid: number): string {
  const known = NAMES[pid];
  if (known !== undefined) return known;
  const bits = pid & LAYER_3_BITS;
  if (bits === 0x10 || bits === 0x20) return 'AX.25 layer 3';
  return `protocol ${pid.toString(16).toUpperCase().padStart(2, '0')}`;
}
