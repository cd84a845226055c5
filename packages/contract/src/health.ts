/**
 * How storing goes. away: the database does not answer · full: no space where the data lies · refuses: a write fails for
 * another reason, which detail tells. waiting: frames and other writes that are held in memory; dropped: frames lost since the
 * start because the room was full; refused: frames that can never be stored, put into a file; restored: frames that
 * had waited in a file since the last stop.
 */
export interface HealthView {
  readonly database: 'here' | 'away' | 'full' | 'refuses';
  readonly sinceMs?: number;
  readonly detail?: string;
  readonly waiting: number;
  readonly dropped: number;
  /** Of which links. */
  readonly droppedOf: readonly string[];
  readonly refused: number;
  readonly restored: number;
}

export const ALL_WELL: HealthView = {
  database: 'here',
  waiting: 0,
  dropped: 0,
  droppedOf: [],
  refused: 0,
  restored: 0,
};
