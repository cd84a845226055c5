import type { LevelResult } from '@mistpeak/contract/levels';
import type { LevelsEvents } from '@mistpeak/contract/live/levels';
import type { Slice } from './slice';

export interface LevelsState {
  /** Newest first. */
  readonly levelResults: readonly LevelResult[];
}

export const levels: Slice<LevelsState, keyof LevelsEvents> = {
  empty: { levelResults: [] },
  ofSnapshot: ({ levelResults }) => ({ levelResults }),
  on: { 'level-results': (_, levelResults) => ({ levelResults }) },
};
