import { Inject, Injectable } from '@nestjs/common';
import { ask, drillOf, name } from '@mistpeak/core/drills/drill';
import { resultOf, type DrillResult } from '@mistpeak/core/drills/score';
import type { DrillsView, EndedDrill, ExerciseResult } from '@mistpeak/contract/drills';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { PracticeService } from './practice.service.js';
import { PracticeWorld } from './practice-world.js';

const MOST_RESULTS = 500;

/** The own record of drills. What a drill came to is reckoned here anew: nobody writes himself a score. */
@Injectable()
export class DrillsService {
  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly practice: PracticeService,
    private readonly world: PracticeWorld,
  ) {}

  async view(): Promise<DrillsView> {
    const running = await this.practice.view();
    const besideAt = await this.world.besideAt();
    return {
      results: await this.newest<DrillResult>('drill_result'),
      exercises: await this.newest<ExerciseResult>('exercise_result'),
      practice: {
        place: this.world.place(),
        ...(running ? { running } : {}),
        ...(besideAt === undefined ? {} : { besideAt }),
      },
    };
  }

  async keep(id: string, { seed, faults, tests, named }: EndedDrill): Promise<DrillsView> {
    const ended = name(tests.reduce(ask, drillOf(faults, seed)), named);
    const atMs = Math.floor(this.clock.nowMs());
    await this.database.query(
      'INSERT INTO drill_result (id, at, result) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
      [id, new Date(atMs).toISOString(), JSON.stringify(resultOf(ended, atMs))],
    );
    return this.view();
  }

  /** Oldest first. */
  private async newest<Result>(table: 'drill_result' | 'exercise_result'): Promise<Result[]> {
    const rows: { result: Result }[] = await this.database.query(
      `SELECT result FROM ${table} ORDER BY at DESC, id LIMIT $1`,
      [MOST_RESULTS],
    );
    return rows.map(({ result }) => result).reverse();
  }
}
