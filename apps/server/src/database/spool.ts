import {
  closeSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { Inject, Injectable, Logger } from '@nestjs/common';
import { CONFIGURATION, type Configuration } from '../configuration.js';

/**
 * What waits for the database when the process ends, as a file of JSON lines in the data folder, one for each kind. It is
 * whole or not there; a line that cannot be read is passed over and told.
 */
@Injectable()
export class Spool {
  private readonly log = new Logger('spool');
  private readonly folder: string | undefined;

  constructor(@Inject(CONFIGURATION) { dataFolder }: Configuration) {
    this.folder = dataFolder;
  }

  keep(kind: string, items: readonly unknown[]): void {
    if (items.length === 0) return;
    if (!this.folder)
      return this.log.error(`${items.length} ${kind} are lost: there is no folder to keep them`);
    mkdirSync(this.folder, { recursive: true });
    const file = this.fileOf(kind);
    const begun = openSync(`${file}.new`, 'w', 0o600);
    for (const item of items) writeSync(begun, `${JSON.stringify(item)}\n`);
    fsyncSync(begun);
    closeSync(begun);
    renameSync(`${file}.new`, file);
    this.log.warn(`${items.length} ${kind} wait in ${file} for the next start`);
  }

  /** What was kept, oldest first; it is ours now, and must be kept again if it cannot be used. */
  take<Item>(kind: string): Item[] {
    const items = this.folder === undefined ? [] : this.read<Item>(this.fileOf(kind));
    if (items.length > 0)
      this.log.warn(`${items.length} ${kind} waited since the last stop and are written now`);
    return items;
  }

  private read<Item>(file: string): Item[] {
    let text: string;
    try {
      text = readFileSync(file, 'utf8');
    } catch {
      return [];
    }
    rmSync(file);
    const items: Item[] = [];
    let damaged = 0;
    for (const line of text.split('\n')) {
      if (line === '') continue;
      try {
        items.push(JSON.parse(line) as Item);
      } catch {
        damaged++;
      }
    }
    if (damaged > 0) this.log.error(`${damaged} lines of ${file} could not be read`);
    return items;
  }

  private fileOf(kind: string): string {
    return join(this.folder ?? '', `waiting-${kind}.jsonl`);
  }
}
