import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import {
  beginVisit,
  step,
  type VisitEffect,
  type VisitEvent,
  type VisitPlan,
  type VisitState,
} from '@mistpeak/core/mailbox-visit/visit';
import { decodeText, encodeText, guessCharset } from '@mistpeak/core/terminal/charset';
import type { OrderVisit, VisitView } from '@mistpeak/contract/terminal';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { SessionsService } from '../sessions/sessions.service.js';

const SHOWN = 20;

interface Running {
  readonly machine: Driven<VisitState, VisitEvent>;
  readonly view: () => VisitView;
}

/** Visits that were planned off the air and run by themselves: pages may close meanwhile. */
@Injectable()
export class VisitsService implements OnModuleInit, OnModuleDestroy {
  private readonly running = new Map<string, Running>();
  private past: VisitView[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
    private readonly live: LiveService,
    private readonly sessions: SessionsService,
  ) {}

  async onModuleInit(): Promise<void> {
    const rows = await this.database.query<{ view: VisitView }[]>(
      'SELECT view FROM session_visit ORDER BY at DESC LIMIT $1',
      [SHOWN],
    );
    // One that a stop has cut off goes on no more.
    this.past = rows.map(({ view }) => (view.outcome === 'runs' ? cutOff(view) : view)).reverse();
    this.live.contribute('visits', () => [
      ...this.past,
      ...[...this.running.values()].map(({ view }) => view()),
    ]);
  }

  onModuleDestroy(): void {
    for (const { machine } of this.running.values()) machine.end();
  }

  /** The same id again is the same visit, whose session bears it too. */
  begin(id: string, { call, ...order }: OrderVisit): VisitView {
    const known = this.running.get(id)?.view() ?? this.past.find((one) => one.id === id);
    if (known) return known;
    const plan: VisitPlan = { ...order, me: call.from };
    const session = this.sessions.open(id, call, {
      data: (octets) => this.running.get(id)?.machine.dispatch({ kind: 'heard', text: textOf(octets) }),
      ended: () => this.running.get(id)?.machine.dispatch({ kind: 'ended' }),
    });
    const [first, effects] = beginVisit(plan);
    const atMs = this.clock.nowMs();
    const machine = drive<VisitState, VisitEvent, VisitEffect, Moment>(step, first, {
      clock: this.clock,
      context: (moment) => moment,
      perform: ({ lines }) => void this.sessions.say(id, spoken(lines)),
      changed: () => this.tell(id),
      begin: effects,
    });
    const view = (): VisitView => {
      const { steps, outcome } = machine.state();
      return { id, sessionId: id, to: session.peer, atMs, steps, outcome };
    };
    this.running.set(id, { machine, view });
    this.tell(id);
    return view();
  }

  stop(id: string): VisitView {
    const one = this.running.get(id);
    one?.machine.dispatch({ kind: 'stop' });
    const view = this.past.find((past) => past.id === id) ?? one?.view();
    if (!view) throw new ProblemException('not-found');
    return view;
  }

  private tell(id: string): void {
    const one = this.running.get(id);
    if (!one) return;
    const view = one.view();
    this.live.publish({ kind: 'visit', data: view });
    void this.deferred.write(
      `INSERT INTO session_visit (id, at, view) VALUES ($1, $2, $3::jsonb)
       ON CONFLICT (id) DO UPDATE SET view = excluded.view`,
      [id, new Date(view.atMs).toISOString(), JSON.stringify(view)],
    );
    if (view.outcome === 'runs') return;
    one.machine.end();
    this.running.delete(id);
    this.past = [...this.past, view].slice(-SHOWN);
  }
}

const textOf = (octets: Uint8Array): string => decodeText(octets, guessCharset(octets));

/** Lines of a packet mailbox end in CR (common practice, no source). */
const spoken = (lines: readonly string[]): Uint8Array =>
  encodeText(lines.map((line) => `${line}\r`).join(''), 'UTF-8').octets;

const cutOff = (view: VisitView): VisitView => ({
  ...view,
  outcome: 'stopped',
  steps: view.steps.map((one) =>
    one.state === 'runs' ? { ...one, state: 'stopped', words: 'Mistpeak was stopped' } : one,
  ),
});
