import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { APRS_VECTORS } from '@mistpeak/core/aprs/aprs.vectors';
import { KIND_VECTORS } from '@mistpeak/core/aprs/kinds.vectors';
import { fuzz } from '@mistpeak/core/bits/testing/fuzz';

setFlagsFromString('--expose-gc');
/** What is held, not what waits to be swept. */
const collectGarbage = runInNewContext('gc') as () => void;

const ROUNDS = 20;
const INPUTS = 1_000_000;
/** What the heap may hold more at the end than after the first round, MiB. */
const MOST_GROWTH_MIB = 64;

/** Twenty million random and mutated inputs through KISS, AX.25 and APRS: no throw, no hang, bounded memory. */
export function fuzzBenchmark(): void {
  const infos = [...APRS_VECTORS, ...KIND_VECTORS].map(({ info }) => info);
  const begun = performance.now();
  let [inputs, frames, reports, slowestMs, firstMib, mostMib] = [0, 0, 0, 0, 0, 0];
  const failures: string[] = [];
  for (let round = 1; round <= ROUNDS; round++) {
    const found = fuzz(infos, INPUTS, round, () => performance.now());
    inputs += found.inputs;
    frames += found.frames;
    reports += found.reports;
    slowestMs = Math.max(slowestMs, found.slowestMs);
    failures.push(...found.failures);
    collectGarbage();
    const mib = process.memoryUsage().heapUsed / 2 ** 20;
    if (round === 1) firstMib = mib;
    mostMib = Math.max(mostMib, mib);
  }
  const seconds = (performance.now() - begun) / 1000;
  for (const failure of failures.slice(0, 10)) console.log(`  ${failure}`);
  console.log(
    `  ${inputs / 1e6} million inputs in ${Math.round(seconds)} s: ${failures.length} failures (aim 0), ` +
      `${(frames / 1e6).toFixed(1)} million read as frames, ${(reports / 1e6).toFixed(1)} million as reports`,
  );
  console.log(
    `  slowest thousand ${slowestMs.toFixed(0)} ms; heap ${firstMib.toFixed(0)} MiB after the first round, ` +
      `${mostMib.toFixed(0)} at most (aim below ${MOST_GROWTH_MIB} more)`,
  );
  if (failures.length > 0 || mostMib - firstMib > MOST_GROWTH_MIB) process.exitCode = 1;
}
