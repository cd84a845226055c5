import type { LinkSettings } from '@mistpeak/contract/link';
import type { ByteLink } from '@mistpeak/link/byte-link';
import { LinkFailed } from '@mistpeak/link/failure';
import { openSerial } from '../adapters/serial-port.js';
import { openTcp } from '../adapters/tcp.js';

/** The wire that the settings name. Rejects with LinkFailed. */
export function openWire(settings: LinkSettings, signal: AbortSignal): Promise<ByteLink> {
  const { kind, host, port, device, speed } = settings;
  if (kind === 'network' && host && port) return openTcp(host, port, signal);
  if (kind === 'serial' && device && speed) return openSerial(device, speed, signal);
  return Promise.reject(new LinkFailed('other', 'the settings name no address'));
}
