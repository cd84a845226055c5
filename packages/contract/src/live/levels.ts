import type { LevelResult } from '../levels.js';

/** What the checks of levels came to, the newest first. */
export interface LevelsSnapshot {
  readonly levelResults: readonly LevelResult[];
}

export interface LevelsEvents {
  'level-results': readonly LevelResult[];
}
