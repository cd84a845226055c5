import { chainsBenchmark } from './chains.js';
import { drawnBenchmark } from './drawn.js';
import { framesBenchmark } from './frames.js';
import { fuzzBenchmark } from './fuzz.js';
import { hostileBenchmark } from './hostile.js';
import { ingestBenchmark } from './ingest.js';
import { kissBenchmark } from './kiss.js';
import { levelsBenchmark } from './levels.js';
import { mailBenchmark } from './mail.js';
import { mapBenchmark } from './map.js';
import { memoryBenchmark } from './memory.js';
import { messagesBenchmark } from './messages.js';
import { modemBenchmark } from './modem.js';
import { pathsBenchmark } from './paths.js';
import { searchBenchmark } from './search.js';
import { sendingBenchmark } from './sending.js';
import { sessionsBenchmark } from './sessions.js';
import { sharingBenchmark } from './sharing.js';
import { terminalBenchmark } from './terminal.js';

/** Figures as ratios against a reference measured in the same run; nothing here is a timed test. */
const BENCHMARKS: Record<string, () => Promise<void> | void> = {
  kiss: kissBenchmark,
  frames: framesBenchmark,
  chains: chainsBenchmark,
  ingest: ingestBenchmark,
  sending: sendingBenchmark,
  sharing: sharingBenchmark,
  hostile: hostileBenchmark,
  drawn: drawnBenchmark,
  map: mapBenchmark,
  memory: memoryBenchmark,
  mail: mailBenchmark,
  messages: messagesBenchmark,
  modem: modemBenchmark,
  levels: levelsBenchmark,
  paths: pathsBenchmark,
  search: searchBenchmark,
  sessions: sessionsBenchmark,
  terminal: terminalBenchmark,
  fuzz: fuzzBenchmark,
};

const names = process.argv.slice(2);
const unknown = names.filter((name) => !Object.hasOwn(BENCHMARKS, name));
if (unknown.length > 0) {
  console.error(
    `There is no benchmark ${unknown.join(', ')}; there are: ${Object.keys(BENCHMARKS).join(', ')}`,
  );
  process.exit(2);
}
for (const [name, run] of Object.entries(BENCHMARKS)) {
  if (names.length > 0 && !names.includes(name)) continue;
  console.log(`\n${name}`);
  await run();
}
process.exit();
