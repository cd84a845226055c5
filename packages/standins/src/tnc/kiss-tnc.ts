import { once } from 'node:events';
import { createServer, type Server, type Socket } from 'node:net';
import { decodeFrame } from '@mistpeak/core/ax25/frame';
import { formatMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import type { KissDiscard, KissFrame } from '@mistpeak/core/kiss/commands';
import { USUAL_ACCESS, type Access } from '@mistpeak/core/network/channel';
import type { Clock } from '@mistpeak/link/clock';
import { standInSignature } from '@mistpeak/link/stand-in-signature';
import { BAUD, type RadioChannel, type RadioSet } from '../radio-channel/radio-channel.js';
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
  private server: Server;
  private readonly callers = new Set<Caller>();
  private readonly set: RadioSet;
  private behaviour: Behaviour;
  private access: Access = USUAL_ACCESS;
  private knownPort = 0;
  private deafUntilMs = 0;

  constructor(private readonly parts: TncParts) {
    this.behaviour = behaviourOf(parts.fault);
    this.set = { name: parts.name, hear: (frame) => this.pass(frame) };
    parts.channel.attach(this.set);
    this.server = this.newServer();
  }

  /** From now on it behaves so. Whoever is connected stays, unless it listens elsewhere now. */
  async behave(behaviour: Behaviour): Promise<void> {
    const moves = behaviour.listens !== this.behaviour.listens;
    this.behaviour = behaviour;
    if (!moves) return;
    await this.close();
    this.server = this.newServer();
    await this.listenAt(behaviour.listens ? this.knownPort : 0);
  }

  /** Listens on loopback; port 0 takes a free one. Returns the port. */
  async listen(port: number): Promise<number> {
    this.knownPort = await this.listenAt(port);
    return this.knownPort;
  }

  private newServer(): Server {
    return createServer((socket) => this.serve(socket));
  }

  private listenAt(port: number): Promise<number> {
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
    caller.socket.on('data', (octets: Buffer) => {
      if (!caller.isOpen) return;
      this.promptTo(caller);
      if (this.behaviour.speaksKiss) decoder.push(octets).forEach((item) => this.take(item));
    });
    this.promptTo(caller);
    if (this.behaviour.speaksKiss) this.write(caller, encodeKiss(standInSignature));
  }

  private promptTo(caller: Caller): void {
    const { prompt } = this.behaviour;
    if (prompt !== undefined) this.write(caller, prompt);
  }

  private pass(frame: Uint8Array): void {
    const { hears, printsText, missedShare } = this.behaviour;
    if (!hears || this.parts.clock.upMs() < this.deafUntilMs) return;
    if (missedShare > 0 && this.parts.dice() < missedShare) return;
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
    else if (item.command === 'data' && this.behaviour.keys) this.key(item.payload);
  }

  private key(frame: Uint8Array): void {
    const { spoiltShare, hangsMs } = this.behaviour;
    const { channel, clock, dice } = this.parts;
    const isSpoilt = spoiltShare > 0 && dice() < spoiltShare;
    channel.send(this.set, isSpoilt ? spoilt(frame) : frame, this.access);
    if (hangsMs > 0) this.deafUntilMs = clock.upMs() + airTimeMs(frame, BAUD, this.access) + hangsMs;
  }
}

/** Half open: the far end is gone without a word; the line still stands. */
function hush(caller: Caller): void {
  caller.isOpen = false;
  caller.socket.pause();
}

/** As long on the air, and no address field that anybody could read. */
const spoilt = (frame: Uint8Array): Uint8Array => frame.map((octet) => octet | 1);

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
