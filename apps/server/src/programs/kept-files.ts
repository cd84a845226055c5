import { copyFileSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

interface Kept {
  readonly path: string;
  /** Undefined: there was none. */
  readonly copy?: string;
}

const JOURNAL = 'kept-configurations.json';

/**
 * Configuration files of other programs that ours has put its own in the place of. The journal is on the disk before anything is
 * replaced, so that they are put back also after a crash.
 */
export class KeptFiles {
  constructor(private readonly folder: string) {}

  /** What stands at that path is kept, and the text put in its place. */
  replace(path: string, text: string): void {
    const kept = this.read();
    if (!kept.some((one) => one.path === path)) {
      const copy = join(this.folder, `kept-configuration-${Date.now()}-${kept.length}`);
      const isThere = existsSync(path);
      if (isThere) copyFileSync(path, copy);
      this.write([...kept, { path, ...(isThere && { copy }) }]);
    }
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, text);
  }

  /** As it was before; of a path that was never replaced nothing. */
  restore(path: string): void {
    const kept = this.read();
    const one = kept.find((file) => file.path === path);
    if (!one) return;
    if (one.copy === undefined) rmSync(path, { force: true });
    else if (existsSync(one.copy)) copyFileSync(one.copy, path);
    this.write(kept.filter((file) => file !== one));
    if (one.copy !== undefined) rmSync(one.copy, { force: true });
  }

  /** After a crash: all that is still not as it was. Returns their paths. */
  restoreAll(): string[] {
    const paths = this.read().map(({ path }) => path);
    for (const path of paths) this.restore(path);
    return paths;
  }

  private read(): readonly Kept[] {
    const file = join(this.folder, JOURNAL);
    if (!existsSync(file)) return [];
    try {
      return JSON.parse(readFileSync(file, 'utf8')) as Kept[];
    } catch {
      // Cut off in mid-write: nothing had been replaced yet.
      return [];
    }
  }

  private write(kept: readonly Kept[]): void {
    const file = join(this.folder, JOURNAL);
    if (kept.length === 0) rmSync(file, { force: true });
    else writeFileSync(file, JSON.stringify(kept), { flush: true });
  }
}
