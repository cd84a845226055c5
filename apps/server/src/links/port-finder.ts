import { Inject, Injectable } from '@nestjs/common';
import { portVoice, type Voice } from '@mistpeak/core/port-voice/port-voice';
import type { PortListening, PortListeningView } from '@mistpeak/contract/link';
import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';
import { OPENING_LIMIT_MS } from '@mistpeak/link/life';
import { openSerial } from '../adapters/serial-port.js';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';

/** Position sentences come every second or two; a packet channel with traffic gives a frame within some seconds. */
const LISTEN_MS = 8000;
/** What has said something and then nothing for this long has said it all, as a prompt. */
const QUIET_MS = 2000;
/** These are sure as soon as they are heard. */
const SURE: readonly Voice[] = ['KISS', 'position sentences'];
/** A port that never stops talking is known long before this. */
const MOST_OCTETS = 16_384;

/** Listens to one serial port after another and says what speaks there. It sends nothing. */
@Injectable()
export class PortFinder {
  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly live: LiveService,
  ) {}

  async listen({ path, speed }: PortListening, left: AbortSignal): Promise<PortListeningView> {
    const tell = (
      phase: PortListeningView['phase'],
      more: Partial<PortListeningView> = {},
    ): PortListeningView => {
      const view = { path, speed, phase, sinceMs: this.clock.nowMs(), ...more };
      this.live.publish({ kind: 'port-listening', data: view });
      return view;
    };
    tell('opening');
    try {
      const wire = await this.open(path, speed, left);
      tell('listening');
      return tell('heard', { heard: portVoice(await this.hear(wire, left)) });
    } catch (error) {
      const { failure, detail } = failureOf(error);
      return tell('failed', { failure, failureDetail: detail });
    }
  }

  /** A Bluetooth port may block for half a minute; whoever leaves ends it at once. */
  private async open(path: string, speed: number, left: AbortSignal): Promise<ByteLink> {
    const limit = new AbortController();
    const cancel = this.clock.after(OPENING_LIMIT_MS, () => limit.abort());
    try {
      return await openSerial(path, speed, AbortSignal.any([limit.signal, left]));
    } catch (error) {
      throw limit.signal.aborted ? new LinkFailed('timed-out') : error;
    } finally {
      cancel();
    }
  }

  private async hear(wire: ByteLink, left: AbortSignal): Promise<Uint8Array> {
    const pieces: Uint8Array[] = [];
    let octets = 0;
    const close = (): void => void wire.close();
    const cancel = this.clock.after(LISTEN_MS, close);
    let cancelQuiet = (): void => undefined;
    left.addEventListener('abort', close, { once: true });
    try {
      for await (const piece of wire.receive) {
        pieces.push(piece);
        octets += piece.length;
        const soFar = Buffer.concat(pieces);
        if (octets > MOST_OCTETS || SURE.includes(portVoice(soFar).voice)) return soFar;
        cancelQuiet();
        cancelQuiet = this.clock.after(QUIET_MS, close);
      }
      return Buffer.concat(pieces);
    } finally {
      cancel();
      cancelQuiet();
      await wire.close();
    }
  }
}
