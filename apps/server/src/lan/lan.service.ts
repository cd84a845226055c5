import { hostname, networkInterfaces } from 'node:os';
import { Injectable } from '@nestjs/common';
import type { Credentials } from './authority.js';

interface Opened {
  readonly port: number;
  readonly credentials: Credentials;
  readonly shut: () => void;
}

/** How this machine is reached from its network, once it has been opened to it. */
@Injectable()
export class LanService {
  private opened: Opened | undefined;

  open(opened: Opened): void {
    this.opened = opened;
  }

  /** The way in is shut, and the authority forgotten: the next opening makes another, which no device trusts yet. */
  close(): void {
    this.opened?.shut();
    this.opened = undefined;
  }

  /** As `https://192.168.1.20:7374`; none while Mistpeak is on this machine only. */
  addresses(): string[] {
    const { opened } = this;
    return opened ? ownAddresses().map((address) => `https://${address}:${opened.port}`) : [];
  }

  authority(): Pick<Credentials, 'authority' | 'fingerprint'> | undefined {
    return this.opened?.credentials;
  }
}

/** The IPv4 addresses of this machine on its networks. */
export function ownAddresses(): string[] {
  return Object.values(networkInterfaces())
    .flatMap((one) => one ?? [])
    .filter(({ internal, family }) => !internal && family === 'IPv4')
    .map(({ address }) => address);
}

/** Names under which others may call: its own, and the one that multicast DNS answers to (RFC 6762). */
export function ownNames(): string[] {
  const [name = 'localhost'] = hostname().toLowerCase().split('.');
  return [name, `${name}.local`, 'localhost'];
}
