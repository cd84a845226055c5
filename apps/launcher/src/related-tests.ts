import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** Who imports whom: path → paths, all from the top of the project. */
export type Imports = ReadonlyMap<string, readonly string[]>;

const FROM = /\b(?:from|import|import\() ?'([^']+)'/g;
const OURS = /^@mistpeak\/(core|link|contract|standins)\/(.+)$/;

/** Reads the imports of these files, from the top of the project at home. */
export function readImports(home: string, files: readonly string[]): Imports {
  const known = new Set(files);
  return new Map(
    files.map((file) => {
      const text = existsSync(join(home, file)) ? readFileSync(join(home, file), 'utf8') : '';
      const names = [...text.matchAll(FROM)].map((match) => match[1] ?? '');
      return [file, names.flatMap((name) => resolved(name, file, known) ?? [])];
    }),
  );
}

function resolved(name: string, by: string, known: ReadonlySet<string>): string | undefined {
  const ours = OURS.exec(name);
  const path = ours ? `packages/${ours[1]}/src/${ours[2]}` : join(dirname(by), name);
  if (!ours && !name.startsWith('.')) return undefined;
  const bare = path.replace(/\.js$/, '');
  return [path, `${bare}.ts`, `${bare}.tsx`].find((one) => known.has(one));
}

/** Everything that one of the changed files can touch, the nearest first: path → how many imports away. */
export function touchedBy(imports: Imports, changed: readonly string[]): Map<string, number> {
  const importers = new Map<string, string[]>();
  for (const [by, names] of imports)
    for (const name of names) importers.set(name, [...(importers.get(name) ?? []), by]);
  const distances = new Map(changed.map((file) => [file, 0]));
  // A Map gives what is added while it is gone through.
  for (const [file, distance] of distances)
    for (const by of importers.get(file) ?? []) if (!distances.has(by)) distances.set(by, distance + 1);
  return distances;
}
