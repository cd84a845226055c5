import type { LinkSettings } from '@mistpeak/contract/link';

/** `127.0.0.1:8001` or `/dev/ttyUSB0, 9600 Bd`. */
export function addressOf({ kind, host, port, device, speed }: LinkSettings): string {
  return kind === 'network' ? `${host}:${port}` : `${device}, ${speed} Bd`;
}
