import { spawnSync } from 'node:child_process';
import { appendFileSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import { seededDice } from '@mistpeak/core/network/dice';
import { HOME } from '../apps/launcher/src/home.js';
import { readImports, touchedBy } from '../apps/launcher/src/related-tests.js';
import { mutated, mutationsOf, type Mutation } from './sites.js';
import { typesRefuse } from './types.js';

/**
 * npm run mutants [-- --seed 1 --count 200 --only packages/core/src/kiss --again]
 *
 * Changes one place of core, link and server at a time and runs the tests nearest to it; what they let pass is shown to the
 * compiler, which is a check too. Works in this checkout, one file at a
 * time, and puts each back, after a run that was killed at the next start; what is done is kept in data/mutants-SEED.jsonl, so that a stopped run goes on where it was. --again: those that
 * survived are tried once more, after tests were added; the sources must be the same, since the choice depends on them.
 */
const { values } = parseArgs({
  options: {
    seed: { type: 'string', default: '1' },
    count: { type: 'string', default: '200' },
    only: { type: 'string', default: '' },
    again: { type: 'boolean', default: false },
  },
});

const PLACES = /^(?:packages\/(?:core|link)|apps\/server)\/src\//;
/** Tests, their helpers and trials, tables of published values, columns and wiring. */
const LEFT_OUT =
  /\.test\.ts$|\/testing\/|\/(?:session|message)-trial\/|\.vectors\.|\.entity\.|\.migration\.|\.module\.|\/migrate\.ts$/;
/** More than this many test files say no more than the nearest ones do. */
const MOST_TESTS = 6;
/** So many are tried first: most of what is caught, the nearest catch. */
const FIRST_TESTS = 2;
const LIMIT_MS = 180_000;
const UNDERWAY = join(HOME, 'data', 'mutant-underway.json');
/** So many imports away a room still uses the file itself. */
const NEAR = 2;

interface Verdict {
  readonly file: string;
  readonly line: number;
  readonly what: string;
  readonly caught: boolean;
  readonly by?: 'tests' | 'types';
  readonly tests: number;
}

const git = (...words: string[]): string[] =>
  spawnSync('git', words, { cwd: HOME, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
const read = (file: string): string => readFileSync(join(HOME, file), 'utf8');

putBack();
if (git('status', '--porcelain', '--untracked-files=no').length > 0) {
  console.error(
    'There is work that is not committed; it would be in the way. Commit it first, or use another checkout.',
  );
  process.exit(2);
}

const all = git('ls-files', '*.ts', '*.tsx').filter((file) => !file.endsWith('.d.ts'));
const imports = readImports(HOME, all);
const sources = all.filter(
  (file) => PLACES.test(file) && !LEFT_OUT.test(file) && file.startsWith(values.only),
);
const sites = sources.flatMap((file) =>
  mutationsOf(file, read(file)).map((mutation) => ({ file, mutation })),
);
const dice = seededDice(Number(values.seed));
const chosen = shuffled(sites).slice(0, Number(values.count));
const log = join(HOME, 'data', `mutants-${values.seed}.jsonl`);
mkdirSync(join(HOME, 'data'), { recursive: true });
const done = existsSync(log) ? readFileSync(log, 'utf8').split('\n').filter(Boolean) : [];
const verdicts = done.map((line) => JSON.parse(line) as Verdict);

if (values.again)
  for (const [i, { file, mutation }] of chosen.slice(0, verdicts.length).entries()) {
    if (verdicts[i]?.caught) continue;
    verdicts[i] = judge(file, mutation);
    writeFileSync(log, verdicts.map((one) => `${JSON.stringify(one)}\n`).join(''));
    console.log(
      `${verdicts[i].caught ? 'caught  ' : 'SURVIVED'} ${file}:${verdicts[i].line} ${mutation.what}`,
    );
  }

for (const { file, mutation } of chosen.slice(verdicts.length)) {
  const verdict = judge(file, mutation);
  verdicts.push(verdict);
  appendFileSync(log, `${JSON.stringify(verdict)}\n`);
  const caught = verdicts.filter((one) => one.caught).length;
  console.log(
    `${verdict.caught ? 'caught  ' : 'SURVIVED'} ${file}:${verdict.line} ${verdict.what} (${caught} of ${verdicts.length})`,
  );
}
const caught = verdicts.filter((one) => one.caught).length;
const byTypes = verdicts.filter((one) => one.by === 'types').length;
console.log(
  `\n${caught} of ${verdicts.length} caught, ${byTypes} of them by the compiler: ${((100 * caught) / verdicts.length).toFixed(0)} %`,
);

function judge(file: string, mutation: Mutation): Verdict {
  const text = read(file);
  const line = text.slice(0, mutation.at).split('\n').length;
  const tests = testsNear(file).slice(0, MOST_TESTS);
  mkdirSync(join(HOME, 'data'), { recursive: true });
  writeFileSync(UNDERWAY, JSON.stringify({ file, text }));
  writeFileSync(join(HOME, file), mutated(text, mutation));
  try {
    const [first, others] = [tests.slice(0, FIRST_TESTS), tests.slice(FIRST_TESTS)];
    const by = !pass(first) || !pass(others) ? 'tests' : typesRefuse(file) ? 'types' : undefined;
    return { file, line, what: mutation.what, caught: Boolean(by), ...(by && { by }), tests: tests.length };
  } finally {
    putBack();
  }
}

/** What is changed now stands in a file beside, as it was. */
function putBack(): void {
  if (!existsSync(UNDERWAY)) return;
  const { file, text } = JSON.parse(readFileSync(UNDERWAY, 'utf8')) as { file: string; text: string };
  writeFileSync(join(HOME, file), text);
  rmSync(UNDERWAY);
}

/**
 * Those of its own room first, then of the rooms that use it: in the server every test reaches every file, by way of the
 * whole application.
 */
function testsNear(file: string): string[] {
  const touched = touchedBy(imports, [file]);
  const users = new Set([...touched].filter(([, away]) => away <= NEAR).map(([user]) => dirname(user)));
  const farness = (test: string): number =>
    dirname(test).startsWith(dirname(file)) ? 0 : users.has(dirname(test)) ? 1 : 2;
  const tests = [...touched.keys()].filter((one) => one.endsWith('.test.ts'));
  return tests.sort((a, b) => farness(a) - farness(b));
}

/** A run that does not end is a failure too. */
function pass(tests: readonly string[]): boolean {
  if (tests.length === 0) return true;
  const { status } = spawnSync(
    process.execPath,
    ['node_modules/jest/bin/jest.js', '--bail', '--forceExit', '--silent', '--runTestsByPath', ...tests],
    { cwd: HOME, stdio: 'ignore', timeout: LIMIT_MS, killSignal: 'SIGKILL' },
  );
  return status === 0;
}

function shuffled<Item>(items: readonly Item[]): Item[] {
  const left = [...items];
  for (let i = left.length - 1; i > 0; i--) {
    const j = Math.floor(dice() * (i + 1));
    [left[i], left[j]] = [left[j] as Item, left[i] as Item];
  }
  return left;
}
