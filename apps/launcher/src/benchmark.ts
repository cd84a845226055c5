import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { install, POSTGRES } from './debian.js';
import { HOME } from './home.js';

/** Runs benchmarks/ from source. */
export function runBenchmark(rest: readonly string[]): number {
  install(POSTGRES);
  const options = [
    '--conditions=source',
    '--import',
    '@swc-node/register/esm-register',
    join(HOME, 'benchmarks/main.ts'),
    ...rest,
  ];
  const env = { ...process.env, SWC_NODE_PROJECT: join(HOME, 'tsconfig.json') };
  return spawnSync(process.execPath, options, { cwd: HOME, stdio: 'inherit', env }).status ?? 1;
}
