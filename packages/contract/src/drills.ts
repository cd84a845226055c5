import 'reflect-metadata';
import type { Drill } from '@mistpeak/core/drills/drill';
import type { ExerciseId, Step } from '@mistpeak/core/drills/exercises';
import type { DrillResult, Spent } from '@mistpeak/core/drills/score';
import type { Finding } from '@mistpeak/core/faults/bayes';
import { FAULT_IDS, type FaultId } from '@mistpeak/core/faults/faults';
import { TEST_IDS, type Complaint, type TestId } from '@mistpeak/core/faults/tests';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsIn, IsInt, Matches, Max, Min } from 'class-validator';

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

/** On the real pages of the practice world: faults by surprise or chosen, one of the course by its number, or an exercise. */
export class BeginPractice {
  @Matches(/^(?:one|two|course (?:[1-9]|10)|chosen [a-z-]+(?: [a-z-]+)?|tally|relay)$/, {
    message: 'one, two, course 1 to 10, chosen with one or two faults, tally or relay',
  })
  what!: string;
}

export class AskTest {
  @IsIn(TEST_IDS, { message: 'a test that is known' })
  test!: TestId;
}

export class NameFaults {
  @IsArray()
  @ArrayMinSize(1, { message: 'name one' })
  @ArrayMaxSize(4)
  @IsIn(FAULT_IDS, { each: true, message: 'a fault that is known' })
  named!: FaultId[];
}

/** What is practised now. Of a drill nobody is told the faults. */
export interface RunningPractice {
  readonly beganAtMs: number;
  /** Sent since then. */
  readonly packets: number;
  readonly drill?: { readonly complaint: Complaint; readonly findings: readonly Finding[] };
  readonly exercise?: { readonly id: ExerciseId; readonly task: string; readonly steps: readonly Step[] };
}

/** here: this is the practice world; beside: one can be started beside; none: neither. */
export interface PracticeView {
  readonly place: 'here' | 'beside' | 'none';
  readonly running?: RunningPractice;
  /** Where the one beside is, once it is up. */
  readonly besideAt?: string;
}

export interface ExerciseResult {
  readonly atMs: number;
  readonly exercise: ExerciseId;
  readonly minutes: number;
  readonly packets: number;
  readonly isDone: boolean;
}

export interface DrillsView {
  /** Oldest first. */
  readonly results: readonly DrillResult[];
  readonly exercises: readonly ExerciseResult[];
  readonly practice: PracticeView;
}

/** What a drill on the real pages was, once its causes are named. */
export interface EndedPractice {
  readonly drill: Drill;
  readonly spent: Spent;
  readonly view: DrillsView;
}
