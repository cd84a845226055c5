import { randomUUID } from 'node:crypto';
import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import { encodeTextFile, safeFileName } from '@mistpeak/core/terminal/text-file';
import {
  receiveByYapp,
  sendByYapp,
  step,
  type YappEffect,
  type YappEvent,
  type YappState,
} from '@mistpeak/core/terminal/yapp';
import type { SendFile } from '@mistpeak/contract/terminal';
import type { SessionFileView, SessionView } from '@mistpeak/contract/sessions';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { SessionStore } from '../sessions/session-store.js';
import { SessionsService } from '../sessions/sessions.service.js';

/** Files over sessions: as they are, as text, or by YAPP both ways. */
@Injectable()
export class FilesService implements OnModuleDestroy {
  private readonly transfers = new Map<string, Driven<YappState, YappEvent>>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly live: LiveService,
    private readonly sessions: SessionsService,
    private readonly store: SessionStore,
  ) {}

  onModuleDestroy(): void {
    for (const machine of this.transfers.values()) machine.end();
  }

  send(sessionId: string, { name, base64, way }: SendFile): SessionView {
    const file = { name: safeFileName(name), octets: new Uint8Array(Buffer.from(base64, 'base64')) };
    if (way === 'plain') return this.sessions.say(sessionId, file.octets);
    if (way === 'text') {
      const lines = encodeTextFile(file).map((line) => `${line}\r`);
      return this.sessions.say(sessionId, fromLatin1(lines.join('')));
    }
    return this.transfer(sessionId, 'out', file.name, sendByYapp(file), file.octets.length);
  }

  receive(sessionId: string): SessionView {
    return this.transfer(sessionId, 'in', '', receiveByYapp());
  }

  cancel(sessionId: string): SessionView {
    this.transfers.get(sessionId)?.dispatch({ kind: 'cancel' });
    return this.sessions.run(sessionId).view();
  }

  private transfer(
    sessionId: string,
    direction: 'in' | 'out',
    name: string,
    [first, effects]: readonly [YappState, readonly YappEffect[]],
    of?: number,
  ): SessionView {
    const run = this.sessions.run(sessionId);
    if (this.transfers.has(sessionId)) throw new ProblemException('file-underway');
    run.isFileTransfer = true;
    run.noteFile({ direction, name, octets: 0, ...(of === undefined ? {} : { of }) });
    const stopFollowing = this.sessions.follow(sessionId, {
      data: (octets) => this.transfers.get(sessionId)?.dispatch({ kind: 'heard', octets }),
      ended: () => this.finish(sessionId, false, 'the session ended'),
    });
    const machine = drive<YappState, YappEvent, YappEffect, Moment>(step, first, {
      clock: this.clock,
      context: (moment) => moment,
      perform: (effect) => {
        if (effect.kind === 'send') run.say(effect.octets);
        else if (effect.kind === 'received') this.keep(sessionId, effect.file);
        else {
          stopFollowing();
          this.finish(sessionId, effect.ok, effect.words);
        }
      },
      changed: (state) => {
        if (state.phase === 'receiving')
          run.noteFile({
            direction,
            name: state.name,
            octets: state.octets,
            ...(state.size === undefined ? {} : { of: state.size }),
          });
      },
      begin: effects,
    });
    this.transfers.set(sessionId, machine);
    return run.view();
  }

  private keep(sessionId: string, { name, octets }: { name: string; octets: Uint8Array }): void {
    const view: SessionFileView = {
      id: randomUUID(),
      sessionId,
      name,
      octets: octets.length,
      atMs: this.clock.nowMs(),
    };
    void this.store.keepFile(view, octets);
    this.live.publish({ kind: 'session-file', data: view });
  }

  private finish(sessionId: string, ok: boolean, words: string): void {
    const machine = this.transfers.get(sessionId);
    this.transfers.delete(sessionId);
    machine?.end();
    this.sessions.endFile(sessionId, ok, words);
  }
}
