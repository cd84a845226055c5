import { statfsSync } from 'node:fs';

/** PostgreSQL makes its log in files of 16 MiB (PostgreSQL, "WAL Configuration"). */
const LEAST_FREE = 16 * 1024 * 1024;

/** Whether there is room for data in that folder; where that cannot be told, there is. */
export function hasSpace(folder: string | undefined): boolean {
  if (folder === undefined) return true;
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize >= LEAST_FREE;
  } catch {
    return true;
  }
}
