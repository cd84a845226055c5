import { fork } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { cpus, setPriority } from 'node:os';
import { fileURLToPath } from 'node:url';
import { HOSTILITIES, REQUESTS } from './attacker.js';
import { Station } from './station.js';

/** Garbage is collected in its own time. */
const CALM_MS = 3000;
/** nice(1). */
const STEPS_BACK = 15;

/** A thousand of each kind, fifty at once, while another asks: how long it waits, and what it costs in memory. */
export async function hostileBenchmark(): Promise<void> {
  const station = await Station.up({ MISTPEAK_TRUSTS_LOOPBACK: '0', MISTPEAK_LAUNCHER_SECRET: 'benchmark' });
  const host = new URL(station.address).host;
  const quiet = await waits(station, 20);
  console.log(`  another request, while all is quiet: at most ${quiet.toFixed(0)} ms`);
  let mostMs = 0;
  const before = memoryOf(station.serverPid);
  for (const { name } of HOSTILITIES) {
    const others = watch(station);
    const from = performance.now();
    await inflict(name, host);
    const seconds = (performance.now() - from) / 1000;
    const most = await others();
    mostMs = Math.max(mostMs, most);
    console.log(
      `  ${name}: ${REQUESTS} in ${seconds.toFixed(1)} s; another waited at most ${most.toFixed(0)} ms; ${grown(station, before)} MB over before`,
    );
  }
  await new Promise((resolve) => setTimeout(resolve, CALM_MS));
  console.log(
    `  longest wait of another: ${mostMs.toFixed(0)} ms (aim 100); memory ${grown(station, before)} MB over before (aim 50)`,
  );
  await station.down();
}

/** By a process of its own that steps back: an attacker's machine takes nothing from ours but the network. */
async function inflict(name: string, host: string): Promise<void> {
  const attacker = fork(fileURLToPath(new URL('./attacker.ts', import.meta.url)), [name, host]);
  setPriority(attacker.pid ?? 0, STEPS_BACK);
  await once(attacker, 'exit');
}

/** Asks again and again until told to stop; the answer is the longest wait, ms. */
function watch(station: Station): () => Promise<number> {
  let isOver = false;
  let most = 0;
  const asking = (async () => {
    while (!isOver) most = Math.max(most, await waits(station, 1));
  })();
  return async () => {
    isOver = true;
    await asking;
    return most;
  };
}

async function waits({ address }: Station, times: number): Promise<number> {
  let most = 0;
  for (let i = 0; i < times; i++) {
    const [from, stolenBefore] = [performance.now(), stolenMs()];
    await fetch(`${address}/api/v1/access`).then((answer) => answer.arrayBuffer());
    most = Math.max(most, performance.now() - from - (stolenMs() - stolenBefore));
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  return most;
}

const TICK_MS = 10;

/** What a virtual machine's host took from us since the start, ms of each processor: it is no wait of ours (proc(5), stat). */
function stolenMs(): number {
  const fields = readFileSync('/proc/stat', 'utf8').split('\n', 1)[0]?.split(/\s+/) ?? [];
  return (Number(fields[8] ?? 0) * TICK_MS) / cpus().length;
}

/** Resident set, MB (proc(5), status). */
function memoryOf(pid: number): number {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
}

const grown = (station: Station, before: number): string => (memoryOf(station.serverPid) - before).toFixed(0);
