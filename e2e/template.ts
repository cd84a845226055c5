import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { execFileSync } from 'node:child_process';

/** Where the run keeps its templates; set before its workers begin. */
const FOLDER = 'MISTPEAK_E2E_TEMPLATES';
const LOOK_EVERY_MS = 200;
const MADE_WITHIN_MS = 600_000;

/** The island's time in journeys that do not need the real one; what was set up for it is a minute older. */
export const ISLAND_AT = '2026-10-12T14:05:00Z';
export const ISLAND_MINUTE = ISLAND_AT.slice(0, 16);
export const SET_UP_AT = '2026-10-12T14:04:00Z';

export function makeTemplatesFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'mistpeak-templates-'));
  chmodSync(folder, 0o755);
  process.env[FOLDER] = folder;
  return folder;
}

/**
 * Fills an empty data folder with what a first start leaves there. make: starts and stops once on the folder that it is given;
 * the first worker that needs one makes it for all.
 */
export async function fillFrom(
  kind: 'start' | 'demo',
  into: string,
  make: (folder: string) => Promise<void>,
): Promise<void> {
  const folders = process.env[FOLDER];
  if (folders === undefined) return;
  const [template, ready, lock] = ['', ' ready', ' lock'].map((suffix) => join(folders, kind + suffix)) as [
    string,
    string,
    string,
  ];
  if (!existsSync(ready) && takes(lock)) {
    mkdirSync(template);
    chmodSync(template, 0o755);
    await make(template);
    writeFileSync(ready, '');
  }
  for (let waited = 0; !existsSync(ready); waited += LOOK_EVERY_MS) {
    if (waited > MADE_WITHIN_MS) throw new Error(`The template ${kind} was not made.`);
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
  }
  // Owners too: the cluster belongs to the database user.
  execFileSync('cp', ['-a', `${template}/.`, into]);
  forgetPorts(into);
}

function takes(lock: string): boolean {
  try {
    mkdirSync(lock);
    return true;
  } catch {
    return false;
  }
}

/** Two copies that start at once must not want the same ports. */
function forgetPorts(folder: string): void {
  const file = join(folder, 'demo.json');
  if (!existsSync(file)) return;
  const { linkId } = JSON.parse(readFileSync(file, 'utf8')) as { linkId?: string };
  writeFileSync(file, JSON.stringify({ tncPort: 0, linkId }));
}
