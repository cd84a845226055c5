import { parseArgs } from 'node:util';
import { KissTnc } from './tnc/kiss-tnc.js';
import { firstWorld, OPERATOR_SET } from './world/first-world.js';
import { systemClock } from './world/system-clock.js';

/** The stand-in world as a process: prints `ready PORT` when its TNC listens; ends on SIGTERM, SIGINT or with its input. */
const { values } = parseArgs({
  options: { port: { type: 'string', default: '0' }, seed: { type: 'string', default: '1' } },
});
const world = firstWorld(systemClock, Number(values.seed));
const tnc = new KissTnc(world.channel, OPERATOR_SET);
console.log(`ready ${await tnc.listen(Number(values.port))}`);

for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => void stop());
if (process.env.MISTPEAK_ENDS_WITH_INPUT) process.stdin.resume().once('end', () => void stop());

async function stop(): Promise<void> {
  process.stdin.destroy();
  world.end();
  await tnc.close();
}
