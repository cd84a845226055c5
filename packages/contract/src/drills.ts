import 'reflect-metadata';
import type { DrillResult } from '@mistpeak/core/drills/score';
import { FAULT_IDS, type FaultId } from '@mistpeak/core/faults/faults';
import { TEST_IDS, type TestId } from '@mistpeak/core/faults/tests';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsIn, IsInt, Max, Min } from 'class-validator';

const SEED = { message: 'a whole number' };

/** A drill that was ended: what it came to follows from it, here as on the page. */
export class EndedDrill {
  @IsInt(SEED)
  @Min(0, SEED)
  @Max(2 ** 31, SEED)
  seed!: number;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(2, { message: 'one or two faults' })
  @IsIn(FAULT_IDS, { each: true, message: 'a fault that is known' })
  faults!: FaultId[];

  /** In the order in which they were asked for. */
  @IsArray()
  @ArrayMaxSize(40)
  @IsIn(TEST_IDS, { each: true, message: 'a test that is known' })
  tests!: TestId[];

  @IsArray()
  @ArrayMaxSize(4)
  @IsIn(FAULT_IDS, { each: true, message: 'a fault that is known' })
  named!: FaultId[];
}

export interface DrillsView {
  /** Oldest first. */
  readonly results: readonly DrillResult[];
}
