import { parseArgs } from 'node:util';
import { userInfo } from 'node:os';
import { join, resolve } from 'node:path';
import { newAddress } from './entrance.js';
import { runBenchmark } from './benchmark.js';
import { HOME } from './home.js';
import { SERVICES } from '@mistpeak/standins/services/services';
import { FAULTS } from '@mistpeak/standins/tnc/faults';
import { installService, removeService } from './service.js';
import { run, type DemoOptions, type RunOptions } from './run.js';
import { runTests } from './test.js';

const USAGE = `./mistpeak demo       start with the demo world: stand-in stations, nothing reaches a real radio
./mistpeak start      start with your own station
    --port N          address of the page on this machine (default 7373)
    --data DIR        where everything is kept (default data/ in this folder)
    --fresh           begin again with an empty database
    --lan             also for phones and computers of this network, by HTTPS and a pairing code
    --fault NAME      demo only: its TNC has this fault (${FAULTS.join(', ')})
    --closed NAME     demo only: this service is silent (${Object.keys(SERVICES).join(', ')})
    --at TIME         demo only: the island's clock begins there (2026-10-12T14:05:00Z)
./mistpeak service    with sudo: starts your own station with this machine (--data, --port, --lan as above)
    --remove          takes that back; what was kept stays
./mistpeak address    a new address that lets one browser on this machine in, once (--data DIR as it was started)
./mistpeak test       every check; installs what it needs
    NAME ...          only the suites or test files that bear the name
    --changed         only what the work not yet committed can touch
./mistpeak benchmark  figures, as ratios within one run
./mistpeak tool VERB  frames, captures and codes in a shell; ./mistpeak tool --help`;

class WrongUsage extends Error {}

async function main(verb: string | undefined, rest: string[]): Promise<number> {
  switch (verb) {
    case 'demo':
    case 'start':
      return run(readOptions(verb, rest));
    case 'address':
      console.log(await newAddress(dataFolder('start', parsed(rest).values.data)));
      return 0;
    case 'service':
      return service(rest);
    case 'test':
      return runTests(rest);
    case 'benchmark':
      return runBenchmark(rest);
    case undefined:
    case 'help':
    case '--help':
    case '-h':
      console.log(USAGE);
      return 0;
    default:
      throw new WrongUsage(`There is no "${verb}".`);
  }
}

function service(rest: string[]): number {
  const { values } = parsed(rest);
  if (values.remove) return removeService(values.into);
  const { data, port, lan } = readOptions('start', rest);
  // Behind sudo it is for whoever asked for it, who owns what is kept.
  const user = process.env.SUDO_USER ?? userInfo().username;
  return installService({ user, data, port, lan }, values.into);
}

function readOptions(verb: string, rest: string[]): RunOptions {
  const { values } = parsed(rest);
  const port = values.port === undefined ? undefined : Number(values.port);
  if (port !== undefined && !(Number.isInteger(port) && port > 0 && port < 65_536))
    throw new WrongUsage('--port takes a number from 1 to 65535.');
  return {
    demo: readDemo(verb, values),
    port,
    data: dataFolder(verb, values.data),
    fresh: values.fresh ?? false,
    lan: values.lan ?? false,
  };
}

/** The demo and the operator's own station never share a database. */
function dataFolder(verb: string, given: string | undefined): string {
  return given === undefined ? join(HOME, 'data', verb === 'demo' ? 'demo' : 'own') : resolve(given);
}

function readDemo(
  verb: string,
  { fault, closed, at }: { fault?: string; closed?: string; at?: string },
): DemoOptions | undefined {
  if (verb !== 'demo') {
    if (fault !== undefined || closed !== undefined || at !== undefined)
      throw new WrongUsage('--fault, --closed and --at belong to the demo.');
    return undefined;
  }
  if (fault !== undefined && !FAULTS.some((known) => known === fault))
    throw new WrongUsage(`There is no fault "${fault}".`);
  if (closed !== undefined && !Object.hasOwn(SERVICES, closed))
    throw new WrongUsage(`There is no service "${closed}".`);
  if (at !== undefined && Number.isNaN(Date.parse(at)))
    throw new WrongUsage('--at takes a time as 2026-10-12T14:05:00Z.');
  return { fault, closed, at };
}

function parsed(rest: string[]): ReturnType<typeof parseArgs<{ options: typeof OPTIONS }>> {
  try {
    return parseArgs({ args: rest, options: OPTIONS });
  } catch (error) {
    throw new WrongUsage((error as Error).message);
  }
}

const OPTIONS = {
  port: { type: 'string' },
  data: { type: 'string' },
  fresh: { type: 'boolean' },
  lan: { type: 'boolean' },
  fault: { type: 'string' },
  closed: { type: 'string' },
  at: { type: 'string' },
  remove: { type: 'boolean' },
  into: { type: 'string' },
} as const;

main(process.argv[2], process.argv.slice(3)).then(
  (code) => process.exit(code),
  (error: Error) => {
    console.error(error.message);
    if (error instanceof WrongUsage) console.error(`\n${USAGE}`);
    process.exit(error instanceof WrongUsage ? 2 : 1);
  },
);
