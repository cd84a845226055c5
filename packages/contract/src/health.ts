/** waiting: frames held in memory; dropped: lost since the start because the buffer was full. */
export interface HealthView {
  readonly database: 'here' | 'away';
  readonly awaySinceMs?: number;
  readonly waiting: number;
  readonly dropped: number;
}
