import { decodeAddressField } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import { kissParameterFrames } from '@mistpeak/core/kiss/parameters';
import type { LinkPhase, LinkSettings } from '@mistpeak/contract/link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';
import { overBytes, type KissLink, type LinkEvent, type PortFrame } from '@mistpeak/link/frame-link';
import { Garbage } from '@mistpeak/link/garbage';
import { step, type LinkEffect, type LinkLifeEvent, type LinkState } from '@mistpeak/link/life';
import type { openWire } from './open-wire.js';

/** Summed garbage is told at the latest after so long. */
const GARBAGE_TOLD_AFTER_MS = 1000;

export interface LinkRunHost {
  readonly clock: Clock;
  readonly dice: () => number;
  readonly openWire: typeof openWire;
  opened(): void;
  received(event: LinkEvent): void;
  changed(): void;
}

/** One link in operation: the life machine, the wire it holds now, and what the far end said of itself. */
export class LinkRun {
  standIn = false;
  openedAtMs: number | undefined;
  openingSinceMs: number | undefined;
  retryAtMs: number | undefined;
  failureDetail = '';
  private wire: KissLink | undefined;
  private opening: AbortController | undefined;
  private readonly life: Driven<LinkState, LinkLifeEvent>;

  constructor(
    private readonly host: LinkRunHost,
    private readonly settings: () => LinkSettings,
  ) {
    this.life = drive<LinkState, LinkLifeEvent, LinkEffect, Moment>(
      step,
      { phase: 'closed' },
      {
        clock: host.clock,
        dice: host.dice,
        context: (moment) => moment,
        perform: (effect) => (effect.kind === 'connect' ? void this.connect() : void this.disconnect()),
        changed: (state) => this.note(state),
      },
    );
  }

  state(): LinkState {
    return this.life.state();
  }

  isOpen(): boolean {
    const { phase } = this.state();
    const open: LinkPhase[] = ['silent', 'hearing', 'transmitting'];
    return open.includes(phase);
  }

  open(): void {
    this.life.dispatch({ kind: 'open' });
  }

  close(): void {
    this.life.dispatch({ kind: 'close' });
  }

  /** Closes for good and waits until the wire is let go. */
  async end(): Promise<void> {
    const wire = this.wire;
    this.close();
    this.life.end();
    await wire?.close();
  }

  /** Hands frames to the TNC, one behind the other. airTimeMs: until the last has left the air. Rejects with LinkFailed. */
  async transmit(frames: readonly PortFrame[], airTimeMs: number): Promise<void> {
    const { wire } = this;
    if (!wire || !this.isOpen()) throw new LinkFailed('closed-by-peer');
    await Promise.all(frames.map((frame) => wire.send(frame)));
    this.life.dispatch({ kind: 'transmit', airTimeMs });
  }

  /** The TNC's channel access, as the settings say. Sent on every opening and after a change. */
  async sendParameters(): Promise<void> {
    for (const frame of kissParameterFrames(0, this.settings())) await this.wire?.set(frame);
  }

  private note(state: LinkState): void {
    const nowMs = this.host.clock.nowMs();
    this.retryAtMs = state.phase === 'failed' ? nowMs + state.retryInMs : undefined;
    this.openingSinceMs = state.phase === 'opening' ? nowMs : undefined;
    this.host.changed();
  }

  private async connect(): Promise<void> {
    const opening = new AbortController();
    this.opening = opening;
    try {
      const wire = await this.host.openWire(this.settings(), opening.signal);
      if (opening.signal.aborted) return await wire.close();
      this.wire = overBytes(wire, this.host.clock);
      this.standIn = false;
      this.openedAtMs = this.host.clock.nowMs();
      this.life.dispatch({ kind: 'opened' });
      this.host.opened();
      await this.sendParameters();
      await this.receive(this.wire, opening.signal);
    } catch (error) {
      if (!opening.signal.aborted) this.fail(error);
    }
  }

  private async receive(wire: KissLink, signal: AbortSignal): Promise<void> {
    const garbage = new Garbage();
    let stopWaiting: (() => void) | undefined;
    const pass = (events: readonly LinkEvent[]): void => events.forEach((one) => this.host.received(one));
    for await (const event of wire.receive) {
      if (signal.aborted) break;
      if (event.kind === 'discard') {
        pass(garbage.take(event, this.host.clock.upMs()));
        if (garbage.isHolding())
          stopWaiting ??= this.host.clock.after(GARBAGE_TOLD_AFTER_MS, () => {
            stopWaiting = undefined;
            pass(garbage.summed());
          });
        continue;
      }
      if (event.kind === 'stand-in') {
        this.standIn = true;
        this.host.changed();
      }
      // Noise may look like a KISS frame; one with the addresses of a packet is heard.
      if (event.kind === 'frame' && !isMalformed(decodeAddressField(event.raw)))
        this.life.dispatch({ kind: 'heard' });
      this.host.received(event);
    }
    stopWaiting?.();
    pass(garbage.summed());
    if (!signal.aborted) this.fail(new LinkFailed('closed-by-peer'));
  }

  private fail(error: unknown): void {
    const failed = failureOf(error);
    this.failureDetail = failed.detail;
    this.life.dispatch({ kind: 'failed', reason: failed.failure });
  }

  private async disconnect(): Promise<void> {
    this.opening?.abort();
    const wire = this.wire;
    this.wire = undefined;
    this.standIn = false;
    this.openedAtMs = undefined;
    await wire?.close().catch(() => undefined);
  }
}
