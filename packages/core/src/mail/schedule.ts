/** When a session is begun by itself. Hours and times are UTC; from = to: all day; from > to: over midnight. */
export interface CallSchedule {
  /** 0: only at the times. */
  readonly everyMinutes: number;
  /** `HH:MM` */
  readonly atTimes: readonly string[];
  readonly fromHour: number;
  readonly toHour: number;
}

const MINUTE_MS = 60_000;
const DAY_MS = 1440 * MINUTE_MS;

/** The next time after that moment; both in ms since 1970. Undefined where nothing is due within a day. */
export function nextCall(
  { everyMinutes, atTimes, fromHour, toHour }: CallSchedule,
  sinceMs: number,
): number | undefined {
  const dayMs = Math.floor(sinceMs / DAY_MS) * DAY_MS;
  const minuteOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));
  const fixed = [0, 1].flatMap((day) =>
    atTimes.map((time) => dayMs + day * DAY_MS + minuteOf(time) * MINUTE_MS),
  );
  const stepMs = everyMinutes * MINUTE_MS;
  const steps = stepMs > 0 ? Math.ceil(DAY_MS / stepMs) : 0;
  const regular = Array.from({ length: steps }, (_, i) => sinceMs + (i + 1) * stepMs);
  const opening = [0, 1].map((day) => dayMs + day * DAY_MS + fromHour * 60 * MINUTE_MS);
  const isWithin = (ms: number): boolean => {
    const hour = (ms % DAY_MS) / (60 * MINUTE_MS);
    if (fromHour === toHour) return true;
    return fromHour < toHour ? hour >= fromHour && hour < toHour : hour >= fromHour || hour < toHour;
  };
  // After the closed hours the first call comes as they end, if one fell into them.
  const afterClosed =
    stepMs > 0 && regular[0] !== undefined && !isWithin(regular[0])
      ? opening.filter((ms) => ms > sinceMs)
      : [];
  const due = [...fixed, ...regular, ...afterClosed].filter((ms) => ms > sinceMs && isWithin(ms));
  return due.length > 0 ? Math.min(...due) : undefined;
}
