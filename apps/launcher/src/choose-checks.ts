import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { HOME } from './home.js';
import { readImports, touchedBy, type Imports } from './related-tests.js';

export type Suite = 'format' | 'types' | 'types-web' | 'lint' | 'unit' | 'browser';

/** A suite with what is added to its command; nothing added means all of it. */
export interface Check {
  readonly suite: Suite;
  readonly more: readonly string[];
}

interface Runner {
  readonly command: readonly string[];
  /** What the runner checks when it is not told what. */
  readonly all: readonly string[];
  /** Where the runner writes its count; a suite without one counts as a single check. */
  readonly report?: 'jest' | 'playwright';
}

export const SUITES: Readonly<Record<Suite, Runner>> = {
  format: {
    command: ['node_modules/oxfmt/bin/oxfmt', '--check', '--no-error-on-unmatched-pattern'],
    all: ['.'],
  },
  types: { command: ['node_modules/typescript-native/bin/tsc', '--noEmit'], all: [] },
  'types-web': { command: ['node_modules/typescript-native/bin/tsc', '--noEmit', '-p', 'apps/web'], all: [] },
  lint: {
    command: ['node_modules/oxlint/bin/oxlint', '--max-warnings', '0', '--no-error-on-unmatched-pattern'],
    all: ['.'],
  },
  unit: { command: ['node_modules/jest/bin/jest.js'], all: [], report: 'jest' },
  browser: { command: ['node_modules/@playwright/test/cli.js', 'test'], all: [], report: 'playwright' },
};

const NAMES = Object.keys(SUITES) as Suite[];
const isTest = (file: string): boolean => file.endsWith('.test.ts');
const isJourney = (file: string): boolean => file.endsWith('.e2e.ts');
const isCode = (file: string): boolean => /\.(?:ts|tsx|mjs)$/.test(file);

/**
 * wanted: nothing for every check; names of suites, or pieces of test files' paths; or `--changed`, for what the work not
 * yet committed can touch (with all committed: the last commit).
 * Throws with the names there are when nothing bears a name.
 */
export function chooseChecks(wanted: readonly string[]): Check[] {
  if (wanted.length === 0) return NAMES.map((suite) => ({ suite, more: SUITES[suite].all }));
  if (wanted[0] === '--changed')
    return checksTouchedBy(
      changedFiles(),
      journeys(),
      readImports(HOME, git('ls-files', '--cached', '--others', '--exclude-standard', '--', '*.ts', '*.tsx')),
    );
  return checksNamed(wanted, git('ls-files', '--', '*.test.ts', '*.e2e.ts'));
}

/** files: paths of all tests and journeys. */
export function checksNamed(names: readonly string[], files: readonly string[]): Check[] {
  const unknown = names.filter(
    (name) => !NAMES.includes(name as Suite) && !files.some((file) => file.includes(name)),
  );
  if (unknown.length > 0)
    throw new Error(
      `No test bears the name ${unknown.join(', ')}. A piece of a test file's path will do; the suites are: ${NAMES.join(', ')}.`,
    );
  const suites: Check[] = NAMES.filter((suite) => names.includes(suite)).map((suite) => ({
    suite,
    more: SUITES[suite].all,
  }));
  const bearing = files.filter((file) =>
    names.some((name) => !NAMES.includes(name as Suite) && file.includes(name)),
  );
  return [...suites, ...only('unit', bearing.filter(isTest)), ...only('browser', bearing.filter(isJourney))];
}

export interface Journey {
  readonly file: string;
  readonly text: string;
}

/** What the changed files can touch: types always, related unit tests, and the journeys that visit what changed. */
export function checksTouchedBy(
  changed: readonly string[],
  all: readonly Journey[],
  imports: Imports,
): Check[] {
  const code = changed.filter(isCode);
  return [
    ...only('format', changed),
    ...(code.length > 0 ? (['types', 'types-web'] as const).map((suite) => ({ suite, more: [] })) : []),
    ...only('lint', code),
    ...only('unit', [...touchedBy(imports, code).keys()].filter(isTest)),
    ...only(
      'browser',
      all.filter((journey) => code.some((file) => isTouched(journey, file))).map(({ file }) => file),
    ),
  ];
}

/** A room of the page or of the server, whose journeys name it; what lies elsewhere can touch every journey. */
const ROOM = /^apps\/(?:web\/src\/routes|server\/src)\/([a-z-]+)\//;

function isTouched({ file, text }: Journey, changed: string): boolean {
  if (isJourney(changed)) return changed === file;
  if (isTest(changed) || changed.startsWith('benchmarks/') || changed.startsWith('apps/tool/')) return false;
  const room = ROOM.exec(changed)?.[1];
  return room === undefined || text.toLowerCase().includes(room.replaceAll('-', ' '));
}

const only = (suite: Suite, files: readonly string[]): Check[] =>
  files.length > 0 ? [{ suite, more: files }] : [];

function journeys(): Journey[] {
  return git('ls-files', '--', 'e2e/journeys/*.e2e.ts').map((file) => ({
    file,
    text: `${basename(file)} ${readFileSync(join(HOME, file), 'utf8')}`,
  }));
}

function changedFiles(): string[] {
  const open = [
    ...git('diff', '--name-only', '--diff-filter=d', 'HEAD'),
    ...git('ls-files', '--others', '--exclude-standard'),
  ];
  return open.length > 0 ? open : git('diff', '--name-only', '--diff-filter=d', 'HEAD~1', 'HEAD');
}

function git(...words: string[]): string[] {
  const { status, stdout, stderr } = spawnSync('git', words, { cwd: HOME, encoding: 'utf8' });
  if (status !== 0) throw new Error(`Git does not say what has changed: ${stderr.trim()}`);
  return stdout.split('\n').filter((line) => line !== '');
}
