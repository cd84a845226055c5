import { createServer, type Server, type Socket } from 'node:net';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { EMPTY_DESK, step, type Desk, type DeskEffect, type DeskEvent } from '@mistpeak/core/sharing/desk';
import type { LetGo, SharingClientView } from '@mistpeak/contract/sharing';
import type { Clock } from '@mistpeak/link/clock';

/** More programs than this on one TNC are a fault, not a wish. */
const MOST_CLIENTS = 32;
/** Octets of one client read in a second; a radio channel of 9600 Bd takes 1200. The rest waits in its own socket. */
const MOST_OCTETS_PER_SECOND = 32_768;
const PACE_MS = 250;
/** Who has sent without a pause for this long sends no packets: 160 kB would be on the air for twenty minutes. */
const MOST_PACED_MS = 5000;
/** A program that reads this slowly is let go, so that what it does not take fills no memory. */
const MOST_UNREAD = 256 * 1024;

export interface ShareHost {
  readonly clock: Clock;
  readonly newMayTransmit: () => boolean;
  /** Hands a frame on, whose answer is `done` of the desk, or takes back what was handed on. */
  perform(effect: DeskEffect, from: string): void;
  changed(): void;
}

interface Visitor {
  readonly id: string;
  readonly socket: Socket;
  readonly from: string;
  readonly sinceMs: number;
  readonly decoder: KissDecoder;
  heard: number;
  budget: number;
  /** How long it has been held back without a break. */
  pacedMs: number;
  cancelPause: (() => void) | undefined;
}

/** One TNC lent to other programs as KISS over TCP. What they send goes through the desk; what is heard goes to all. */
export class Share {
  private desk: Desk = EMPTY_DESK;
  private readonly visitors = new Map<string, Visitor>();
  private readonly server: Server;
  private lastId = 0;
  private readonly toPass: Uint8Array[] = [];
  readonly letGoFor: Record<LetGo, number> = { flooded: 0, 'read nothing': 0 };

  constructor(private readonly host: ShareHost) {
    this.server = createServer({ noDelay: true, keepAlive: true }, (socket) => this.welcome(socket));
    this.server.maxConnections = MOST_CLIENTS;
  }

  /** Rejects when the port is taken. Returns the port. */
  listen(port: number, address: string): Promise<number> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, address, () => {
        this.server.off('error', reject).on('error', () => undefined);
        resolve((this.server.address() as { port: number }).port);
      });
    });
  }

  close(): Promise<void> {
    for (const { socket } of this.visitors.values()) socket.destroy();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }

  /** What the TNC heard, to every program. */
  pass(port: number, raw: Uint8Array): void {
    if (this.visitors.size === 0) return;
    this.toPass.push(encodeKiss({ port, command: 'data', payload: raw }));
    if (this.toPass.length === 1) setImmediate(() => this.flush());
  }

  /** What came in one turn of the loop goes out in one write to each program: a write costs more than a frame. */
  private flush(): void {
    const frames = this.toPass.splice(0);
    const octets = Buffer.concat(frames);
    for (const visitor of this.visitors.values()) {
      visitor.heard += frames.length;
      visitor.socket.write(octets);
      if (visitor.socket.writableLength > MOST_UNREAD) this.letGo(visitor, 'read nothing');
    }
    this.host.changed();
  }

  tell(event: DeskEvent): void {
    const [desk, effects] = step(this.desk, event);
    this.desk = desk;
    for (const effect of effects) this.host.perform(effect, this.visitors.get(effect.client)?.from ?? '');
    this.host.changed();
  }

  private letGo(visitor: Visitor, why: LetGo): void {
    this.letGoFor[why]++;
    this.forget(visitor);
    visitor.socket.destroy();
  }

  private forget(visitor: Visitor): void {
    if (!this.visitors.delete(visitor.id)) return;
    visitor.cancelPause?.();
    this.tell({ kind: 'left', client: visitor.id });
  }

  dismiss(id: string): void {
    this.visitors.get(id)?.socket.destroy();
  }

  has(id: string): boolean {
    return this.visitors.has(id);
  }

  clients(): SharingClientView[] {
    const views = this.desk.clients.flatMap(({ id, mayTransmit, waiting, handed, refused, asked }) => {
      const visitor = this.visitors.get(id);
      if (!visitor) return [];
      const { from, sinceMs, heard } = visitor;
      return [{ id, from, sinceMs, mayTransmit, heard, handed, waiting, refused, asked }];
    });
    return views.sort((a, b) => Number(a.id) - Number(b.id));
  }

  private welcome(socket: Socket): void {
    const id = String(++this.lastId);
    const { clock } = this.host;
    const visitor: Visitor = {
      id,
      socket,
      from: `${socket.remoteAddress ?? '?'} ${socket.remotePort ?? ''}`.replace('::ffff:', ''),
      sinceMs: clock.nowMs(),
      decoder: new KissDecoder(),
      heard: 0,
      budget: MOST_OCTETS_PER_SECOND,
      pacedMs: 0,
      cancelPause: undefined,
    };
    this.visitors.set(id, visitor);
    this.tell({ kind: 'joined', client: id, mayTransmit: this.host.newMayTransmit() });
    socket.on('data', (octets: Buffer) => this.read(visitor, octets));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.forget(visitor));
  }

  private read(visitor: Visitor, octets: Uint8Array): void {
    for (const item of visitor.decoder.push(octets))
      this.tell(
        'discarded' in item
          ? { kind: 'garbled', client: visitor.id }
          : { kind: 'asked', client: visitor.id, frame: item },
      );
    this.pace(visitor, octets.length);
  }

  /** Whoever floods is read no faster than any radio could send it: TCP makes it wait. */
  private pace(visitor: Visitor, octets: number): void {
    visitor.budget -= octets;
    if (visitor.budget <= 0) visitor.socket.pause();
    visitor.cancelPause ??= this.host.clock.after(PACE_MS, () => this.refill(visitor));
  }

  private refill(visitor: Visitor): void {
    visitor.pacedMs = visitor.budget <= 0 ? visitor.pacedMs + PACE_MS : 0;
    if (visitor.pacedMs > MOST_PACED_MS) return this.letGo(visitor, 'flooded');
    const share = (MOST_OCTETS_PER_SECOND * PACE_MS) / 1000;
    visitor.budget = Math.min(MOST_OCTETS_PER_SECOND, visitor.budget + share);
    if (visitor.budget > 0) visitor.socket.resume();
    const isFull = visitor.budget === MOST_OCTETS_PER_SECOND;
    visitor.cancelPause = isFull ? undefined : this.host.clock.after(PACE_MS, () => this.refill(visitor));
  }
}
