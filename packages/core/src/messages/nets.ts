/** A net: a time each week at which stations check in with a message. */
export interface Net {
  readonly name: string;
  /** 0 Sunday … 6 Saturday, in its own zone. */
  readonly weekday: number;
  /** `19:30`, in its own zone. */
  readonly time: string;
  /** Minutes that its zone is ahead of UTC. */
  readonly zoneMin: number;
  readonly addressee: string;
  /** `{call}`, `{locator}`, `{name}` are filled in. */
  readonly template: string;
  /** How long before it begins it reminds. */
  readonly remindMin: number;
}

const MINUTE_MS = 60_000;
const DAY_MS = 24 * 60 * MINUTE_MS;
const WEEK_MS = 7 * DAY_MS;
/** 1970-01-01 was a Thursday. */
const FIRST_WEEKDAY = 4;

/** When the net begins next, ms since 1970: now at the earliest. */
export function nextBeginning({ weekday, time, zoneMin }: Net, nowMs: number): number {
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  const inWeek = ((weekday - FIRST_WEEKDAY + 7) % 7) * DAY_MS + (hours * 60 + minutes) * MINUTE_MS;
  const localMs = nowMs + zoneMin * MINUTE_MS;
  const weekMs = Math.floor(localMs / WEEK_MS) * WEEK_MS;
  const beginning = weekMs + inWeek;
  return (beginning >= localMs ? beginning : beginning + WEEK_MS) - zoneMin * MINUTE_MS;
}

/** Whether it is time to be reminded: from so long before until it has begun. */
export function isNear(net: Net, nowMs: number): boolean {
  return nextBeginning(net, nowMs) - nowMs <= net.remindMin * MINUTE_MS;
}

/** What is not known is left out with the blank before it. */
export function checkInText(template: string, facts: Readonly<Record<string, string | undefined>>): string {
  return template
    .replace(/ ?\{(\w+)\}/g, (whole, name: string) => {
      const fact = facts[name];
      return fact === undefined ? '' : whole.replace(/\{\w+\}/, fact);
    })
    .trim();
}
