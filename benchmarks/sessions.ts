import { planTrial, runTrial } from '@mistpeak/core/session-trial/trial';

const SEEDS = 10_000;

/** Ten thousand trials of a connection; the figure beside the faults is simulated time against real time. */
export function sessionsBenchmark(): void {
  const begun = performance.now();
  let simulatedMs = 0;
  let complete = 0;
  let resets = 0;
  let faulty = 0;
  for (let seed = 1; seed <= SEEDS; seed++) {
    const findings = runTrial(planTrial(seed));
    simulatedMs += findings.tookMs;
    resets += findings.resets;
    if (findings.complete) complete++;
    if (findings.faults.length === 0) continue;
    faulty++;
    console.log(`  MISTPEAK_TRIAL=${seed}: ${findings.faults.slice(0, 3).join('; ')}`);
  }
  const ratio = simulatedMs / (performance.now() - begun);
  console.log(
    `  ${SEEDS} seeds: ${faulty} faulty (aim 0), ${complete} brought everything across, ${resets} resets; ` +
      `${Math.round(ratio)} times real time`,
  );
  if (faulty > 0) process.exitCode = 1;
}
