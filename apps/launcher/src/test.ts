import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { ALSA, CHROMIUM, install, LHASA, MINIMODEM, NUMPY, POSTGRES, SOCAT, TSHARK } from './debian.js';
import { HOME } from './home.js';
import { disturbanceWords, watchMachine } from './machine-watch.js';
import { jestScore, playwrightScore } from './score.js';
import { chooseChecks, SUITES, type Check, type Suite } from './choose-checks.js';

interface Score {
  readonly name: string;
  readonly passed: number;
  readonly failed: number;
  readonly seconds: number;
  /** The names of the checks that failed, where the runner tells them. */
  readonly failures: readonly string[];
}

/**
 * How much each lets the others go before (nice(1)): journeys and unit tests go by real time in part, the rest only computes.
 */
const NICENESS: Readonly<Partial<Record<Suite, number>>> = {
  format: 10,
  types: 10,
  'types-web': 10,
  lint: 10,
};

/**
 * Every check, or those chosen (see chooseChecks): the journeys in the browser, the unit tests and what only computes, side by side.
 * The last lines name what failed, give each suite's time and sum them up.
 */
export async function runTests(wanted: readonly string[]): Promise<number> {
  const checks = chooseChecks(wanted);
  install(POSTGRES, CHROMIUM, ALSA, SOCAT, TSHARK, MINIMODEM, NUMPY, LHASA);
  const folder = mkdtempSync(join(tmpdir(), 'mistpeak-test-'));
  const begun = performance.now();
  const alone: readonly Suite[] = ['browser', 'unit'];
  const lanes = [
    ...alone.map((one) => checks.filter(({ suite }) => suite === one)),
    checks.filter(({ suite }) => !alone.includes(suite)),
  ];
  const overMachine = watchMachine();
  const scores = (await Promise.all(lanes.map((lane) => runInTurn(lane, folder)))).flat();
  const disturbance = overMachine();
  rmSync(folder, { recursive: true });
  const sum = (key: 'passed' | 'failed'): number => scores.reduce((total, score) => total + score[key], 0);
  console.log('');
  for (const { name, failures } of scores)
    for (const failure of failures) console.log(`failed: ${name} │ ${failure}`);
  for (const { name, passed, failed, seconds } of scores)
    console.log(`${name.padEnd(10)} ${seconds.toFixed(0).padStart(4)} s  ${passed} passed, ${failed} failed`);
  console.log(disturbanceWords(disturbance));
  const minutes = (performance.now() - begun) / 60_000;
  console.log(`${sum('passed')} passed, ${sum('failed')} failed in ${minutes.toFixed(1)} minutes`);
  return sum('failed') === 0 ? 0 : 1;
}

async function runInTurn(checks: readonly Check[], folder: string): Promise<Score[]> {
  const scores: Score[] = [];
  for (const check of checks) scores.push(await run(check, folder));
  return scores;
}

async function run({ suite: name, more }: Check, folder: string): Promise<Score> {
  const { command, report } = SUITES[name];
  const file = join(folder, `${name}.json`);
  const options = report === 'jest' ? ['--json', `--outputFile=${file}`] : [];
  const begun = performance.now();
  const niceness = String(NICENESS[name] ?? 0);
  const nicely = ['-n', niceness, process.execPath, ...command, ...more, ...options];
  const status = await runSaying(name, nicely, {
    ...process.env,
    PLAYWRIGHT_JSON_OUTPUT_FILE: file,
  });
  const seconds = (performance.now() - begun) / 1000;
  const score = report ? readReport(report, file) : { passed: 1, failed: 0, failures: [] };
  // A runner that fails without a failed test has failed itself.
  const failed = status === 0 ? score.failed : Math.max(1, score.failed);
  return {
    name,
    passed: status === 0 || report ? score.passed : 0,
    failed,
    seconds,
    failures: score.failures,
  };
}

/** Runs it by nice(1); each line it prints bears the suite's name, since several speak at once. */
function runSaying(name: string, options: readonly string[], env: NodeJS.ProcessEnv): Promise<number | null> {
  const child = spawn('nice', options, { cwd: HOME, stdio: ['ignore', 'pipe', 'pipe'], env });
  for (const output of [child.stdout, child.stderr])
    createInterface({ input: output }).on('line', (line) => console.log(`${name.padEnd(9)} │ ${line}`));
  return new Promise((resolve) => child.once('close', resolve));
}

function readReport(report: 'jest' | 'playwright', file: string): Omit<Score, 'name' | 'seconds'> {
  try {
    const text = readFileSync(file, 'utf8');
    return report === 'jest' ? jestScore(text) : playwrightScore(text);
  } catch {
    // The runner ended before it could count: that is a failure of its own.
    return { passed: 0, failed: 1, failures: [] };
  }
}
