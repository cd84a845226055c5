import { BlockList, isIP } from 'node:net';

/** RFC 5280, 4.2.1.10. */
export const NAME_CONSTRAINTS = '2.5.29.30';

/** Networks that nobody reaches from outside: RFC 1918, 3927 (link-local), 6598 (shared), 1122 (loopback). */
const PRIVATE_NETWORKS: readonly (readonly [string, number])[] = [
  ['10.0.0.0', 8],
  ['172.16.0.0', 12],
  ['192.168.0.0', 16],
  ['169.254.0.0', 16],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
];
const list = new BlockList();
for (const [address, bits] of PRIVATE_NETWORKS) list.addSubnet(address, bits);

/** An address in one of them. */
export function isPrivate(name: string): boolean {
  return isIP(name) === 4 && list.check(name);
}

// DER tags (X.690): SEQUENCE, permittedSubtrees [0], and of GeneralName dNSName [2] and iPAddress [7], implicit.
const SEQUENCE = 0x30;
const PERMITTED = 0xa0;
const DNS_NAME = 0x82;
const IP_ADDRESS = 0x87;

/** The extension's content: these names and addresses, and the private networks, and nothing else. */
export function permittedSubtrees(names: readonly string[]): Uint8Array<ArrayBuffer> {
  const bases = [
    ...names.map((name) =>
      isIP(name) === 4
        ? der(IP_ADDRESS, [...octetsOf(name), ...mask(32)])
        : der(DNS_NAME, [...Buffer.from(name)]),
    ),
    ...PRIVATE_NETWORKS.map(([address, bits]) => der(IP_ADDRESS, [...octetsOf(address), ...mask(bits)])),
  ];
  const subtrees = bases.flatMap((base) => der(SEQUENCE, base));
  return Uint8Array.from(der(SEQUENCE, der(PERMITTED, subtrees)));
}

const octetsOf = (address: string): number[] => address.split('.').map(Number);

const mask = (bits: number): number[] =>
  [0, 8, 16, 24].map((from) => 256 - 2 ** (8 - Math.min(8, Math.max(0, bits - from))));

function der(tag: number, content: readonly number[]): number[] {
  const { length } = content;
  const head =
    length < 0x80 ? [length] : length < 0x100 ? [0x81, length] : [0x82, length >> 8, length & 0xff];
  return [tag, ...head, ...content];
}
