import { once } from 'node:events';
import { createServer, type Server, type Socket } from 'node:net';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import type { KissDiscard, KissFrame } from '@mistpeak/core/kiss/commands';
import { standInSignature } from '@mistpeak/link/stand-in-signature';
import {
  USUAL_ACCESS,
  type Access,
  type RadioChannel,
  type RadioSet,
} from '../radio-channel/radio-channel.js';

/** A KISS TNC on loopback TCP whose radio is one set on the channel. Says at once that it is a stand-in. */
export class KissTnc {
  private readonly server: Server;
  private readonly sockets = new Set<Socket>();
  private readonly set: RadioSet;
  private access: Access = USUAL_ACCESS;

  constructor(
    private readonly channel: RadioChannel,
    name: string,
  ) {
    this.set = { name, hear: (frame) => this.pass(frame) };
    channel.attach(this.set);
    this.server = createServer((socket) => this.serve(socket));
  }

  /** Listens on loopback; port 0 takes a free one. Returns the port. */
  listen(port: number): Promise<number> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, '127.0.0.1', () => resolve((this.server.address() as { port: number }).port));
    });
  }

  async close(): Promise<void> {
    const closed = [...this.sockets].map((socket) => once(socket, 'close'));
    for (const socket of this.sockets) socket.destroy();
    await Promise.all([new Promise((resolve) => this.server.close(resolve)), ...closed]);
  }

  leftovers(): number {
    return this.sockets.size;
  }

  private serve(socket: Socket): void {
    this.sockets.add(socket);
    const decoder = new KissDecoder();
    socket.on('data', (octets: Buffer) => decoder.push(octets).forEach((item) => this.take(item)));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.sockets.delete(socket));
    socket.write(encodeKiss(standInSignature));
  }

  private pass(frame: Uint8Array): void {
    const octets = encodeKiss({ port: 0, command: 'data', payload: frame });
    for (const socket of this.sockets) socket.write(octets);
  }

  private take(item: KissFrame | KissDiscard): void {
    if ('discarded' in item || item.command === 'return' || item.port !== 0) return;
    if (item.command === 'data') this.channel.send(this.set, item.payload, this.access);
    else if ('value' in item) this.access = { ...this.access, ...setting(item) };
  }
}

function setting({ command, value }: KissFrame & { value: number }): Partial<Access> {
  if (command === 'txdelay') return { txDelayMs: value * 10 };
  if (command === 'persistence') return { persistence: (value + 1) / 256 };
  if (command === 'slottime') return { slotTimeMs: value * 10 };
  return command === 'txtail' ? { txTailMs: value * 10 } : {};
}
