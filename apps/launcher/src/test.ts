import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHROMIUM, install, MINIMODEM, NUMPY, POSTGRES, SOCAT, TSHARK } from './debian.js';
import { HOME } from './home.js';

interface Score {
  readonly passed: number;
  readonly failed: number;
}

interface Suite {
  readonly name: string;
  readonly command: readonly string[];
  /** Where the runner writes its count; a suite without one counts as a single check. */
  readonly report?: 'jest' | 'playwright';
}

const SUITES: readonly Suite[] = [
  {
    name: 'format',
    command: ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'],
  },
  { name: 'types', command: ['node_modules/typescript/bin/tsc', '--noEmit'] },
  { name: 'types-web', command: ['node_modules/typescript/bin/tsc', '--noEmit', '-p', 'apps/web'] },
  { name: 'lint', command: ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'] },
  { name: 'unit', command: ['node_modules/jest/bin/jest.js'], report: 'jest' },
  { name: 'browser', command: ['node_modules/@playwright/test/cli.js', 'test'], report: 'playwright' },
];

/** Every check, or the suites named; the last line sums them up. */
export function runTests(names: readonly string[]): number {
  const unknown = names.filter((name) => !SUITES.some((suite) => suite.name === name));
  if (unknown.length > 0)
    throw new Error(
      `No suite ${unknown.join(', ')}; there are: ${SUITES.map(({ name }) => name).join(', ')}`,
    );
  install(POSTGRES, CHROMIUM, SOCAT, TSHARK, MINIMODEM, NUMPY);
  const folder = mkdtempSync(join(tmpdir(), 'mistpeak-test-'));
  const wanted = SUITES.filter(({ name }) => names.length === 0 || names.includes(name));
  const scores = wanted.map((suite) => runSuite(suite, folder));
  rmSync(folder, { recursive: true });
  const sum = (key: keyof Score): number => scores.reduce((total, score) => total + score[key], 0);
  console.log(`${sum('passed')} passed, ${sum('failed')} failed`);
  return sum('failed') === 0 ? 0 : 1;
}

function runSuite({ name, command, report }: Suite, folder: string): Score {
  console.log(`\n── ${name}`);
  const file = join(folder, `${name}.json`);
  const options = report === 'jest' ? ['--json', `--outputFile=${file}`] : [];
  const env = { ...process.env, PLAYWRIGHT_JSON_OUTPUT_FILE: file };
  const stdio =
    report === 'jest'
      ? (['ignore', 'ignore', 'inherit'] as const)
      : (['ignore', 'inherit', 'inherit'] as const);
  const { status } = spawnSync(process.execPath, [...command, ...options], {
    cwd: HOME,
    stdio: [...stdio],
    env,
  });
  const score = report ? readScore(report, file) : { passed: 1, failed: 0 };
  // A runner that fails without a failed test has failed itself.
  const failed = status === 0 ? score.failed : Math.max(1, score.failed);
  return { passed: status === 0 || report ? score.passed : 0, failed };
}

function readScore(report: 'jest' | 'playwright', file: string): Score {
  try {
    const json = JSON.parse(readFileSync(file, 'utf8')) as Record<string, number> & {
      stats?: Record<string, number>;
    };
    if (report === 'jest') return { passed: json.numPassedTests ?? 0, failed: json.numFailedTests ?? 0 };
    return {
      passed: json.stats?.expected ?? 0,
      failed: (json.stats?.unexpected ?? 0) + (json.stats?.flaky ?? 0),
    };
  } catch {
    return { passed: 0, failed: 1 };
  }
}
