/** The end of the year 9999, ms since 1970: later times have another form in ISO 8601, which databases do not read. */
export const LATEST_MS = Date.UTC(9999, 11, 31, 23, 59, 59, 999);
