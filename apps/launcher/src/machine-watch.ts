import { readFileSync } from 'node:fs';

/** What a shared machine's host took away while something ran. */
export interface Disturbance {
  /** 0 to 1: of the time in which processors had work, how much they were not there. */
  readonly takenShare: number;
  /** The longest time in which nothing at all ran, s. */
  readonly longestStandstillS: number;
}

const LOOK_EVERY_MS = 250;

export const disturbanceWords = ({ takenShare, longestStandstillS }: Disturbance): string =>
  `Of the machine ${(takenShare * 100).toFixed(0)} % was taken away; it stood still for ${longestStandstillS.toFixed(1)} s at most.`;

/** Busy and stolen time of all processors, in ticks (proc(5), /proc/stat: user nice system idle iowait irq softirq steal). */
export function processorTimes(stat: string): { readonly busy: number; readonly taken: number } {
  const [user = 0, nice = 0, system = 0, , , irq = 0, softirq = 0, taken = 0] =
    /^cpu +(.*)$/m.exec(stat)?.[1]?.split(' ').map(Number) ?? [];
  return { busy: user + nice + system + irq + softirq, taken };
}

/** Watches until it is asked; looks: the file's text, and the time. */
export function watchMachine(
  readStat = () => readFileSync('/proc/stat', 'utf8'),
  nowMs = () => performance.now(),
): () => Disturbance {
  const before = processorTimes(readStat());
  let [longestMs, lookedMs] = [0, nowMs()];
  const look = (): void => {
    const now = nowMs();
    longestMs = Math.max(longestMs, now - lookedMs - LOOK_EVERY_MS);
    lookedMs = now;
  };
  const timer = setInterval(look, LOOK_EVERY_MS);
  return () => {
    clearInterval(timer);
    const { busy, taken } = processorTimes(readStat());
    const [worked, missed] = [busy - before.busy, taken - before.taken];
    return { takenShare: missed / Math.max(1, worked + missed), longestStandstillS: longestMs / 1000 };
  };
}
