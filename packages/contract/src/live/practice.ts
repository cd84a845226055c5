import type { RunningPractice } from '../drills.js';

/** Whether something is practised on the real pages: told on each of them. */
export type PracticeNow = Pick<RunningPractice, 'beganAtMs'> & {
  readonly isDrill: boolean;
  readonly words: string;
};

export interface PracticeSnapshot {
  readonly practised: PracticeNow | null;
}

export interface PracticeEvents {
  practised: PracticeNow | null;
}
