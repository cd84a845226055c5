import { Inject, Injectable } from '@nestjs/common';
import { drive } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import {
  NOT_TUNED,
  tuningStep,
  type TuningContext,
  type TuningEffect,
  type TuningEvent,
  type TuningState,
} from '@mistpeak/core/command-words/radio-control';
import { cutLines } from '@mistpeak/core/command-words/templates';
import type { RadioControlSettings } from '@mistpeak/contract/mail-settings';
import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf } from '@mistpeak/link/failure';
import { CLOCK } from '../adapters/system-clock.js';
import { openSerial } from '../adapters/serial-port.js';
import { openTcp } from '../adapters/tcp.js';

const OPENING_LIMIT_MS = 5000;
const ENDINGS = { CR: '\r', LF: '\n', 'CR LF': '\r\n', ';': ';' } as const;

export interface Tuned {
  readonly phase: 'set' | 'wrong' | 'silent';
  readonly words: string;
  readonly beforeHz?: number;
}

/** Sets a radio to a frequency by its own words, and believes only what it says itself afterwards. No word of it keys. */
@Injectable()
export class RadioTuning {
  constructor(@Inject(CLOCK) private readonly clock: Clock) {}

  async tune(radio: RadioControlSettings, wantedHz: number): Promise<Tuned> {
    const limit = new AbortController();
    const cancel = this.clock.after(OPENING_LIMIT_MS, () => limit.abort());
    let wire: ByteLink;
    try {
      wire = await openControl(radio, limit.signal);
    } catch (error) {
      return {
        phase: 'silent',
        words: `the control port of the radio does not open (${failureOf(error).failure})`,
      };
    } finally {
      cancel();
    }
    try {
      return await this.converse(wire, radio, wantedHz);
    } finally {
      await wire.close();
    }
  }

  private converse(wire: ByteLink, radio: RadioControlSettings, wantedHz: number): Promise<Tuned> {
    const ending = ENDINGS[radio.ending];
    return new Promise((resolve) => {
      const machine = drive<TuningState, TuningEvent, TuningEffect, TuningContext & Moment>(
        tuningStep,
        NOT_TUNED,
        {
          clock: this.clock,
          context: (moment) => ({ ...moment, words: radio.words, wantedHz }),
          perform: (effect) => {
            if (effect.kind === 'command')
              return void wire.send(Buffer.from(effect.text + ending, 'latin1')).catch(() => undefined);
            const { beforeHz } = machine.state();
            resolve({
              phase: effect.phase,
              words: effect.outcome,
              ...(beforeHz === undefined ? {} : { beforeHz }),
            });
          },
        },
      );
      void read(wire, ending, (text) => machine.dispatch({ kind: 'line', text }));
      machine.dispatch({ kind: 'opened' });
    });
  }
}

function openControl({ at, speed }: RadioControlSettings, signal: AbortSignal): Promise<ByteLink> {
  const [, host, port] = /^([^/]+):(\d{1,5})$/.exec(at.trim()) ?? [];
  return host !== undefined ? openTcp(host, Number(port), signal) : openSerial(at.trim(), speed, signal);
}

async function read(wire: ByteLink, ending: string, take: (line: string) => void): Promise<void> {
  let rest = '';
  try {
    for await (const octets of wire.receive) {
      const cut = cutLines(rest + Buffer.from(octets).toString('latin1'), ending === ';' ? ';' : '\r\n');
      rest = cut.rest;
      for (const line of cut.lines) take(line);
    }
  } catch {
    // Its silence is told when the answer is due.
  }
}
