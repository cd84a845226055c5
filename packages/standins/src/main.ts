import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { encodeElevationTile, tileName } from '@mistpeak/core/geo/elevation-tile';
import { formatKit } from '@mistpeak/core/kit/kit-file';
import { ControlledRadio } from './mail/controlled-radio.js';
import { MailServer } from './mail/mail-server.js';
import { ModemProgram } from './mail/modem-program.js';
import { HUT_SITE } from './stations/cast.js';
import { EQUIPMENT } from './stations/equipment.js';
import { islandMap } from './terrain/map.js';
import { FAULTS } from './tnc/faults.js';
import { InternetServer } from './internet-server/internet-server.js';
import { KissTnc } from './tnc/kiss-tnc.js';
import { Practice } from './practice/practice.js';
import { PracticePort } from './practice/practice-port.js';
import { seededDice } from '@mistpeak/core/network/dice';
import { history } from './world/history.js';
import { clockFrom, systemClock } from './world/system-clock.js';
import { makeLand, makeWorld, OPERATOR_SET, type Land } from './world/world.js';

/**
 * The stand-in world as a process: writes what is asked for, prints `ready PORT` when its TNC listens, ends on SIGTERM,
 * SIGINT or with its input.
 */
const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '0' },
    seed: { type: 'string', default: '1' },
    fault: { type: 'string' },
    /** Time at which its clock starts, ISO 8601; now, if absent. */
    at: { type: 'string' },
    /** Folder for the island's map and elevation. */
    map: { type: 'string' },
    /** File for what was heard in the hours before. */
    history: { type: 'string' },
    /** File for what the island radio group owns. */
    kit: { type: 'string' },
    hours: { type: 'string', default: '4' },
    /** Of the internet side; 0: any. */
    internet: { type: 'string', default: '0' },
    /** The mail service by TCP, a modem program’s two ports, a radio’s control port; 0: any. */
    mail: { type: 'string', default: '0' },
    command: { type: 'string', default: '0' },
    data: { type: 'string', default: '0' },
    radio: { type: 'string', default: '0' },
    /** Where it is told what is the matter; none, if absent. */
    practice: { type: 'string' },
    /** A service that is silent. */
    closed: { type: 'string', default: '' },
  },
});
const seed = Number(values.seed);
const clock = values.at ? clockFrom(Date.parse(values.at)) : systemClock;
const land = makeLand();
if (values.map) writeMap(values.map, land);
if (values.kit) writeFileSync(values.kit, formatKit(EQUIPMENT));
if (values.history) writeFileSync(values.history, history(land, seed, clock.nowMs(), Number(values.hours)));

const world = makeWorld(clock, seed, land, [values.closed]);
const internet = new InternetServer(world.hub, clock);
await internet.listen(Number(values.internet));
const mail = new MailServer(world.mail);
await mail.listen(Number(values.mail));
const modem = new ModemProgram(world.channel, clock, (call) => world.ears.place(call, HUT_SITE));
await modem.listen(Number(values.command), Number(values.data));
const radio = new ControlledRadio();
await radio.listen(Number(values.radio));
const fault = FAULTS.find((name) => name === values.fault);
if (values.fault && !fault) throw new RangeError(`There is no fault "${values.fault}": ${FAULTS.join(', ')}`);
const tnc = new KissTnc({ channel: world.channel, clock, dice: seededDice(seed), name: OPERATOR_SET, fault });
const practice = new Practice(world, tnc, radio);
const practicePort = new PracticePort((order) => practice.obey(order));
if (values.practice) await practicePort.listen(Number(values.practice));
console.log(`ready ${await tnc.listen(Number(values.port))}`);

for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => void stop());
if (process.env.MISTPEAK_ENDS_WITH_INPUT) process.stdin.resume().once('end', () => void stop());

async function stop(): Promise<void> {
  process.stdin.destroy();
  world.end();
  await Promise.all([internet.close(), mail.close(), modem.close(), radio.close(), practicePort.close()]);
  await tnc.close();
}

function writeMap(folder: string, { island, roads }: Land): void {
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'island.geojson'), JSON.stringify(islandMap(island, roads)));
  writeFileSync(join(folder, tileName(island.tile)), encodeElevationTile(island.tile));
}
