/**
 * A wire that carries octets: a TCP connection, a serial port, a browser's device.
 * receive ends when the far side closes and throws LinkFailed when the wire fails; one reader only.
 */
export interface ByteLink {
  readonly receive: AsyncIterable<Uint8Array>;
  send(octets: Uint8Array): Promise<void>;
  close(): Promise<void>;
}
