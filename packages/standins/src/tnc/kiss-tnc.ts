import { once } from 'node:events';
import { createServer, type Server, type Socket } from 'node:net';
import { decodeFrame } from '@mistpeak/core/ax25/frame';
import { formatMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import type { KissDiscard, KissFrame } from '@mistpeak/core/kiss/commands';
import { USUAL_ACCESS, type Access } from '@mistpeak/core/network/channel';
import type { Clock } from '@mistpeak/link/clock';
import { standInSignature } from '@mistpeak/link/stand-in-signature';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';
import { behaviourOf, type Behaviour, type Fault } from './faults.js';

interface TncParts {
  readonly channel: RadioChannel;
  readonly clock: Clock;
  readonly dice: () => number;
  /** Of its set on the channel. */
  readonly name: string;
  readonly fault?: Fault | undefined;
}

/** One program at the TNC's port. */
interface Caller {
  readonly socket: Socket;
  readonly timers: (() => void)[];
  isOpen: boolean;
}

/**
 * A KISS TNC on loopback TCP whose radio is one set on the channel. Says at once that it is a stand-in,
 * unless a fault keeps it from speaking KISS at all.
 */
export class KissTnc {
  private readonly server: Server;
  private readonly callers = new Set<Caller>();
  private readonly set: RadioSet;
  private readonly behaviour: Behaviour;
  private access: Access = USUAL_ACCESS;

  constructor(private readonly parts: TncParts) {
    this.behaviour = behaviourOf(parts.fault);
    this.set = { name: parts.name, hear: (frame) => this.pass(frame) };
    parts.channel.attach(this.set);
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
    const sockets = [...this.callers].map(({ socket }) => socket);
    const closed = sockets.map((socket) => once(socket, 'close'));
    for (const socket of sockets) socket.destroy();
    await Promise.all([new Promise((resolve) => this.server.close(resolve)), ...closed]);
  }

  leftovers(): number {
    return this.callers.size;
  }

  private serve(socket: Socket): void {
    const caller: Caller = { socket, timers: [], isOpen: false };
    this.callers.add(caller);
    const { opensAfterMs, diesAfterMs } = this.behaviour;
    const { clock } = this.parts;
    if (opensAfterMs > 0) caller.timers.push(clock.after(opensAfterMs, () => this.open(caller)));
    else this.open(caller);
    if (diesAfterMs !== undefined) caller.timers.push(clock.after(diesAfterMs, () => hush(caller)));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      for (const cancel of caller.timers) cancel();
      this.callers.delete(caller);
    });
  }

  private open(caller: Caller): void {
    caller.isOpen = true;
    const decoder = new KissDecoder();
    const { prompt, speaksKiss } = this.behaviour;
    caller.socket.on('data', (octets: Buffer) => {
      if (!caller.isOpen) return;
      if (prompt !== undefined) this.write(caller, prompt);
      if (speaksKiss) decoder.push(octets).forEach((item) => this.take(item));
    });
    if (prompt !== undefined) this.write(caller, prompt);
    if (speaksKiss) this.write(caller, encodeKiss(standInSignature));
  }

  private pass(frame: Uint8Array): void {
    const { hears, printsText } = this.behaviour;
    if (!hears) return;
    const words = printsText ? textOf(frame) : encodeKiss({ port: 0, command: 'data', payload: frame });
    for (const caller of this.callers) this.write(caller, words);
  }

  private write({ socket, isOpen }: Caller, octets: Uint8Array | string): void {
    if (!isOpen) return;
    const { lossShare } = this.behaviour;
    const bytes = typeof octets === 'string' ? Buffer.from(octets, 'latin1') : octets;
    socket.write(lossShare > 0 ? bytes.filter(() => this.parts.dice() >= lossShare) : bytes);
  }

  private take(item: KissFrame | KissDiscard): void {
    if ('discarded' in item || item.command === 'return' || item.port !== 0) return;
    if ('value' in item) this.access = { ...this.access, ...setting(item) };
    else if (item.command === 'data' && this.behaviour.keys)
      this.parts.channel.send(this.set, item.payload, this.access);
  }
}

/** Half open: the far end is gone without a word; the line still stands. */
function hush(caller: Caller): void {
  caller.isOpen = false;
  caller.socket.pause();
}

function textOf(raw: Uint8Array): string {
  const frame = decodeFrame(raw);
  return isMalformed(frame) ? '' : `${formatMonitorText(frame)}\r\n`;
}

function setting({ command, value }: KissFrame & { value: number }): Partial<Access> {
  if (command === 'txdelay') return { txDelayMs: value * 10 };
  if (command === 'persistence') return { persistence: (value + 1) / 256 };
  if (command === 'slottime') return { slotTimeMs: value * 10 };
  return command === 'txtail' ? { txTailMs: value * 10 } : {};
}
