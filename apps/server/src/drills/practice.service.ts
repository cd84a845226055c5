import { randomInt } from 'node:crypto';
import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { ask, COURSE, drillOf, name, surpriseDrill, type Drill } from '@mistpeak/core/drills/drill';
import {
  EXERCISE_IDS,
  exerciseOrder,
  exerciseTask,
  relaySteps,
  tallySteps,
  type ExerciseId,
  type Island,
  type Step,
} from '@mistpeak/core/drills/exercises';
import {
  ALL_WELL,
  isWorldFault,
  orderOf,
  WORLD_FAULTS,
  type PracticeOrder,
} from '@mistpeak/core/drills/practice';
import { resultOf, weakIn, type DrillResult, type Spent } from '@mistpeak/core/drills/score';
import type { FaultId } from '@mistpeak/core/faults/faults';
import type { TestId } from '@mistpeak/core/faults/tests';
import type { ExerciseResult, RunningPractice } from '@mistpeak/contract/drills';
import type { PracticeNow } from '@mistpeak/contract/live/practice';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { ProblemException } from '../problems/problem.js';
import { PracticeEvidence } from './practice-evidence.js';
import { PracticeWorld } from './practice-world.js';

const SEEDS = 2 ** 31;
const MINUTE_MS = 60_000;

/** Of the practice world: who gathers the tallies, who asks for a relay, and whom he does not reach. */
const ON_THE_ISLAND = { gathers: 'QH3PRT', asks: 'QH8CLA-7', reaches: 'QH7CTC-9' };

type Practised = { readonly island: Island } & (
  | { readonly drill: Drill }
  | { readonly exercise: ExerciseId; readonly seed: number }
);

interface Running {
  readonly beganAtMs: number;
  readonly practised: Practised;
}

/** One thing that is practised on the real pages: the world has its faults until it is ended or left. */
@Injectable()
export class PracticeService implements OnApplicationBootstrap {
  private running: Running | undefined;
  private turn: Promise<unknown> = Promise.resolve();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly live: LiveService,
    private readonly operator: OperatorService,
    private readonly evidence: PracticeEvidence,
    private readonly world: PracticeWorld,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('practised', () => this.now());
    const rows: { begun_at: Date; practised: Practised }[] = await this.database.query(
      'SELECT begun_at, practised FROM practice WHERE id = 1',
    );
    const [row] = rows;
    if (!row) return;
    // Restored from a practice world: here nothing is practised.
    if (this.world.place() !== 'here') return void (await this.database.query('DELETE FROM practice'));
    this.running = { beganAtMs: row.begun_at.getTime(), practised: row.practised };
    // A world that was started anew is well; one that is away is asked again by whoever begins.
    await this.world.order(orderFor(row.practised)).catch(() => undefined);
  }

  /** what: as BeginPractice has it. */
  begin(what: string): Promise<void> {
    return this.inTurn(() => this.beginNow(what));
  }

  private async beginNow(what: string): Promise<void> {
    if (this.running) throw new ProblemException('practice-runs');
    const seed = randomInt(SEEDS);
    const island = await this.island();
    const exercise = EXERCISE_IDS.find((one) => one === what);
    const practised: Practised = exercise
      ? { island, exercise, seed }
      : { island, drill: await this.drillFor(what, seed) };
    await this.world.order(orderFor(practised));
    const beganAtMs = Math.floor(this.clock.nowMs());
    await this.database.query(
      `INSERT INTO practice (id, begun_at, practised) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET begun_at = excluded.begun_at, practised = excluded.practised`,
      [new Date(beganAtMs).toISOString(), JSON.stringify(practised)],
    );
    this.set({ beganAtMs, practised });
  }

  async view(): Promise<RunningPractice | undefined> {
    if (!this.running) return undefined;
    const { beganAtMs, practised } = this.running;
    const packets = await this.evidence.packetsSince(beganAtMs);
    if ('drill' in practised) {
      const { complaint, findings } = practised.drill;
      return { beganAtMs, packets, drill: { complaint, findings } };
    }
    const { exercise: id, island } = practised;
    const steps = await this.stepsOf(practised);
    return { beganAtMs, packets, exercise: { id, task: exerciseTask(id, island), steps } };
  }

  /** A test whose outcome nobody sees on a page. */
  ask(test: TestId): Promise<void> {
    return this.inTurn(() => this.askNow(test));
  }

  private async askNow(test: TestId): Promise<void> {
    const { beganAtMs, practised } = this.runningDrill();
    const next = { ...practised, drill: ask(practised.drill, test) };
    await this.database.query('UPDATE practice SET practised = $1 WHERE id = 1', [JSON.stringify(next)]);
    this.running = { beganAtMs, practised: next };
  }

  /** The causes are named: the world is well again, and the result is kept. */
  name(id: string, named: readonly FaultId[]): Promise<{ drill: Drill; spent: Spent }> {
    return this.inTurn(() => this.nameNow(id, named));
  }

  private async nameNow(id: string, named: readonly FaultId[]): Promise<{ drill: Drill; spent: Spent }> {
    const { beganAtMs, practised } = this.runningDrill();
    const spent = await this.spentSince(beganAtMs);
    const drill = name(practised.drill, named);
    await this.keep('drill_result', id, resultOf(drill, Math.floor(this.clock.nowMs()), spent));
    await this.over();
    return { drill, spent };
  }

  /** An exercise is over, done or not. */
  endExercise(id: string): Promise<void> {
    return this.inTurn(() => this.endExerciseNow(id));
  }

  private async endExerciseNow(id: string): Promise<void> {
    const { running } = this;
    if (!running || !('exercise' in running.practised)) throw new ProblemException('not-found');
    const { exercise } = running.practised;
    const steps = await this.stepsOf(running.practised);
    const { minutes, packets } = await this.spentSince(running.beganAtMs);
    const atMs = Math.floor(this.clock.nowMs());
    const isDone = steps.every((step) => step.isDone);
    await this.keep('exercise_result', id, { atMs, exercise, minutes: Math.round(minutes), packets, isDone });
    await this.over();
  }

  /** Nothing of it is kept. */
  leave(): Promise<void> {
    return this.inTurn(() => this.over());
  }

  private async over(): Promise<void> {
    await this.world.order(ALL_WELL);
    await this.database.query('DELETE FROM practice');
    this.set(undefined);
  }

  /** Two tabs, or one that pressed twice, are served one after the other: the second finds what the first has done. */
  private inTurn<Done>(task: () => Promise<Done>): Promise<Done> {
    const done = this.turn.then(task);
    this.turn = done.catch(() => undefined);
    return done;
  }

  private async drillFor(what: string, seed: number): Promise<Drill> {
    if (what === 'one' || what === 'two') {
      const weak = weakIn(await this.results()).filter(isWorldFault);
      return surpriseDrill(what === 'two' ? 2 : 1, seed, weak, WORLD_FAULTS);
    }
    const [kind, ...words] = what.split(' ');
    const faults = kind === 'course' ? [COURSE[Number(words[0]) - 1] ?? ''] : [...new Set(words)];
    if (!faults.every(isWorldFault))
      throw new ProblemException('field-refused', { what: 'only on the made-up chain' });
    return drillOf(faults, seed);
  }

  private async results(): Promise<DrillResult[]> {
    const rows: { result: DrillResult }[] = await this.database.query('SELECT result FROM drill_result');
    return rows.map(({ result }) => result);
  }

  private async island(): Promise<Island> {
    const call = this.operator.view()?.call;
    if (call === undefined) throw new ProblemException('not-found');
    return {
      ...ON_THE_ISLAND,
      ownCall: (await this.evidence.beaconingCall()) ?? call,
      gateways: await this.evidence.gateways(),
    };
  }

  private async stepsOf({ island, ...practised }: Practised): Promise<Step[]> {
    if (!this.running || !('exercise' in practised)) return [];
    const { beganAtMs } = this.running;
    return practised.exercise === 'tally'
      ? tallySteps(await this.evidence.ofTally(beganAtMs), island)
      : relaySteps(await this.evidence.ofRelay(beganAtMs), practised.seed, island);
  }

  private async spentSince(beganAtMs: number): Promise<Spent> {
    return {
      minutes: (this.clock.nowMs() - beganAtMs) / MINUTE_MS,
      packets: await this.evidence.packetsSince(beganAtMs),
    };
  }

  private keep(
    table: 'drill_result' | 'exercise_result',
    id: string,
    result: DrillResult | ExerciseResult,
  ): Promise<unknown> {
    return this.database.query(
      `INSERT INTO ${table} (id, at, result) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING`,
      [id, new Date(result.atMs).toISOString(), JSON.stringify(result)],
    );
  }

  private runningDrill(): Running & {
    readonly practised: { readonly island: Island; readonly drill: Drill };
  } {
    const { running } = this;
    if (!running || !('drill' in running.practised)) throw new ProblemException('not-found');
    return { ...running, practised: running.practised };
  }

  private set(running: Running | undefined): void {
    this.running = running;
    this.live.publish({ kind: 'practised', data: this.now() });
  }

  private now(): PracticeNow | null {
    if (!this.running) return null;
    const { beganAtMs, practised } = this.running;
    return 'drill' in practised
      ? { beganAtMs, isDrill: true, words: practised.drill.complaint }
      : { beganAtMs, isDrill: false, words: exerciseTask(practised.exercise, practised.island) };
  }
}

function orderFor(practised: Practised): PracticeOrder {
  return 'drill' in practised
    ? orderOf(practised.drill.faults, practised.island)
    : exerciseOrder(practised.exercise, practised.seed, practised.island);
}
