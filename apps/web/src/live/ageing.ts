const MINUTE_MS = 60_000;

/** Heard within this time a station counts as there. */
export const THERE_MS = 30 * MINUTE_MS;
/** After this it is no longer shown. */
export const LISTED_MS = 24 * 60 * MINUTE_MS;

/** The longer unheard, the paler; oldest first. */
export const OPACITY_LEVELS = [
  { fromMs: 6 * 60 * MINUTE_MS, opacity: 0.35 },
  { fromMs: 2 * 60 * MINUTE_MS, opacity: 0.5 },
  { fromMs: THERE_MS, opacity: 0.7 },
] as const;
