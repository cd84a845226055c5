import { join } from 'node:path';
import ts from 'typescript';
import { HOME } from '../apps/launcher/src/home.js';

/** Something is not used any more: that a change left it over is no word against the change. */
const UNUSED = new Set([6133, 6138, 6192, 6196, 6198]);

const { options, fileNames } = ts.parseJsonConfigFileContent(
  ts.readConfigFile(join(HOME, 'tsconfig.json'), (path) => ts.sys.readFile(path)).config,
  ts.sys,
  HOME,
);
const unchanged = new Map<string, ts.SourceFile>();

/** Whether the compiler refuses this file, a path from the top of the project, as it stands on the disk now. */
export function typesRefuse(file: string): boolean {
  const path = join(HOME, file);
  const host = ts.createCompilerHost(options);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (name, ...more) => {
    if (name === path) return read(name, ...more);
    const known = unchanged.get(name) ?? read(name, ...more);
    if (known) unchanged.set(name, known);
    return known;
  };
  const program = ts.createProgram(fileNames, options, host);
  const source = program.getSourceFile(path);
  if (!source) throw new Error(`${file} is not among the files that tsconfig.json names`);
  return program.getSemanticDiagnostics(source).some(({ code }) => !UNUSED.has(code));
}
