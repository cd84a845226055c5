import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseInternetLine, type InternetPacket } from '@mistpeak/core/internet/line';
import { SeenLately } from '@mistpeak/core/internet/seen-lately';
import type { Clock } from '@mistpeak/link/clock';

/** Somebody at the server: a connection, a gate, a service. */
export interface Port {
  readonly name: string;
  hears(line: string, packet: InternetPacket): void;
}

/** The middle of the island's internet side: what one brings in, all others get, and nothing twice within half a minute. */
export class Hub {
  private readonly ports = new Set<Port>();
  private readonly seen = new SeenLately();

  constructor(private readonly clock: Pick<Clock, 'upMs'>) {}

  join(port: Port): () => void {
    this.ports.add(port);
    return () => this.ports.delete(port);
  }

  /** line: with its q construct. What cannot be read is not passed on. */
  pass(line: string, from: Port | undefined): void {
    const packet = parseInternetLine(line);
    if (isMalformed(packet) || !this.seen.isNew(packet, this.clock.upMs())) return;
    for (const port of this.ports) if (port !== from) port.hears(line, packet);
  }
}
