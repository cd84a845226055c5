import type { LinkSettings } from '@mistpeak/contract/link';

/** `127.0.0.1:8001`, `/dev/ttyUSB0, 9600 Bd` or what a page lends. */
export function addressOf({ kind, host, port, device, speed }: LinkSettings): string {
  switch (kind) {
    case 'network':
      return `${host}:${port}`;
    case 'serial':
      return `${device}, ${speed} Bd`;
    case 'page-serial':
      return `serial port at a browser, ${speed} Bd`;
    case 'page-bluetooth':
      return 'Bluetooth LE at a browser';
  }
}
