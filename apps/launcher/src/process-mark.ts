import { readFileSync } from 'node:fs';

/**
 * Which process it is: numbers are used again, so the time at which it began belongs to it (proc(5), field 22 of stat).
 * Undefined where there is no such process, or it is only waiting to be buried.
 */
export function processMark(pid: number): string | undefined {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name in brackets may hold anything; behind it come the fields from the third on.
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return fields[0] === 'Z' ? undefined : `${pid} ${fields[19]}`;
  } catch {
    return undefined;
  }
}

export function isRunningProcess(pid: number): boolean {
  return Number.isInteger(pid) && pid > 0 && processMark(pid) !== undefined;
}
