import { connect, type Socket } from 'node:net';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { drive } from '@mistpeak/core/machine/drive';
import { seededDice } from '@mistpeak/core/network/dice';
import { Timetable } from '@mistpeak/core/network/timetable';
import {
  CLASSES,
  IDLE,
  LEAST_SHARE,
  step,
  type Offered,
  type SendClass,
  type WayOut,
  type WayOutContext,
  type WayOutEffect,
  type WayOutEvent,
} from '@mistpeak/core/transmitting/way-out';
import { freePort } from '../apps/launcher/src/free-port.js';
import { BENCHMARK_CALL, Station } from './station.js';

const COMMANDS = 100;
const PROGRAMS = 10;
/** As many as a program may have waiting at its share. */
const WINDOW = 8;
const SATURATED_MS = 20_000;

/** An over of five seconds at most, and half a second of pause behind it. */
const MOST_ON_AIR = 91;

/** From an operator's command to its first octet on the wire; and who gets the air when all want it. */
export async function sendingBenchmark(): Promise<void> {
  // Fast on the air, so that the channel is clear again before the next command.
  const station = await Station.up({}, { airRate: 9600, txDelayMs: 0, txTailMs: 0 });
  await station.arm();
  const commands = await commandDelays(station);
  const bare = await bareDelays(station);
  const [median, late] = [at(commands, 0.5), at(commands, 0.99)];
  console.log(
    `  a command to its first octet on the wire: median ${median.toFixed(1)} ms (aim 5), 99 % ${late.toFixed(1)} ms (aim 20); ` +
      `a bare request of the same server ${at(bare, 0.5).toFixed(1)} ms: ratio ${(median / at(bare, 0.5)).toFixed(1)}`,
  );
  const { frames, airMs } = await saturated(station);
  console.log(
    `  ${PROGRAMS} programs that always have something waiting, at 9600 Bd: ${frames} frames in ${SATURATED_MS / 1000} s, ` +
      `${((airMs / SATURATED_MS) * 100).toFixed(0)} % of the time on the air (at most ${MOST_ON_AIR} %: a pause behind each over)`,
  );
  await station.down();
  competition();
}

const at = (sorted: readonly number[], part: number): number =>
  [...sorted].sort((a, b) => a - b)[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] as number;

async function commandDelays(station: Station): Promise<number[]> {
  const delays: number[] = [];
  for (let i = 0; i < COMMANDS; i++) {
    const came = new Promise<number>((resolve) =>
      station.peer.once('data', () => resolve(performance.now())),
    );
    const begun = performance.now();
    await station.sendBeacon();
    delays.push((await came) - begun);
    await overLeft();
  }
  return delays;
}

/** The over itself, and the pause behind it. A request after such a rest takes longer than one of many in a row. */
const overLeft = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 700));

async function bareDelays(station: Station): Promise<number[]> {
  const delays: number[] = [];
  for (let i = 0; i < COMMANDS; i++) {
    const begun = performance.now();
    await station.bareRequest();
    delays.push(performance.now() - begun);
    await overLeft();
  }
  return delays;
}

/** Every program keeps its window full; what reaches the wire, and how long it holds the channel. */
async function saturated(station: Station): Promise<{ frames: number; airMs: number }> {
  const port = await freePort();
  await station.share(port, true);
  const programs = await Promise.all(Array.from({ length: PROGRAMS }, () => connected(port)));
  const decoder = new KissDecoder();
  let frames = 0;
  let airMs = 0;
  let clearAtMs = 0;
  let sent = 0;
  const feed = (i: number): void => {
    const text = `>${i} ${++sent} `.padEnd(100, '.');
    const payload = encodeFrame(uiFrame(`${BENCHMARK_CALL}-${i}`, 'APZMPK', [], fromLatin1(text)));
    programs[i]?.write(encodeKiss({ port: 0, command: 'data', payload }));
  };
  station.peer.on('data', (octets: Buffer) => {
    for (const item of decoder.push(octets)) {
      if (!('command' in item) || item.command !== 'data') continue;
      frames++;
      const ms = airTimeMs(item.payload, 9600);
      airMs += ms;
      clearAtMs = Math.max(clearAtMs, performance.now()) + ms;
      const owner = / ?>(\d+) /.exec(Buffer.from(item.payload).toString('latin1'))?.[1];
      feed(Number(owner));
    }
  });
  for (let i = 0; i < PROGRAMS; i++) for (let k = 0; k < WINDOW; k++) feed(i);
  await new Promise((resolve) => setTimeout(resolve, SATURATED_MS));
  // An over is handed to the TNC as it begins: what of the last one is still to leave does not count.
  airMs -= Math.max(0, clearAtMs - performance.now());
  for (const program of programs) program.destroy();
  return { frames, airMs };
}

const connected = (port: number): Promise<Socket> =>
  new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1', () => resolve(socket));
    socket.setNoDelay(true);
  });

/** Ten senders of all classes that always have something waiting, for an hour of a timetable. */
function competition(): void {
  const dice = seededDice(1);
  const clock = new Timetable();
  const frames = new Map<string, Offered>();
  const air = new Map<SendClass, number>();
  let steps = 0;
  const running = drive<WayOut, WayOutEvent, WayOutEffect, WayOutContext>(
    (state, event, context) => (steps++, step(state, event, context)),
    IDLE,
    {
      clock,
      context: ({ atMs }) => ({ atMs, keyingMs: 330 }),
      perform: (effect) => {
        if (effect.kind !== 'hand') return;
        for (const id of effect.ids) {
          const { sendClass, airTimeMs } = frames.get(id) as Offered;
          air.set(sendClass, (air.get(sendClass) ?? 0) + airTimeMs);
        }
      },
    },
  );
  // Acknowledgements come now and then; the others have two senders, but for the beacon.
  const senders = CLASSES.flatMap((sendClass, i) =>
    (i < 3 ? [1, 2] : [1]).map((n) => ({ sendClass, owner: `${sendClass} ${n}` })),
  ).slice(1);
  let last = 0;
  const offer = (owner: string, sendClass: SendClass): void => {
    const frame = { id: `${++last}`, owner, sendClass, airTimeMs: 200 + dice() * 1800, identifies: true };
    frames.set(frame.id, frame);
    running.dispatch({ kind: 'offer', frame });
  };
  const feed = (): void => {
    for (const { owner, sendClass } of senders)
      if (
        sendClass === 'acknowledgement'
          ? dice() < 0.01
          : running.state().waiting.filter((one) => one.owner === owner).length < 2
      )
        offer(owner, sendClass);
    clock.after(100, feed);
  };
  feed();
  const begun = performance.now();
  clock.advance(3_600_000);
  const perSecond = steps / ((performance.now() - begun) / 1000);
  const all = [...air.values()].reduce((a, b) => a + b, 0);
  const parts = CLASSES.map(
    (one) => `${one} ${(((air.get(one) ?? 0) / all) * 100).toFixed(0)} (${LEAST_SHARE[one] * 100})`,
  );
  console.log(
    `  ${senders.length} senders compete for an hour, % of the air (least share): ${parts.join(', ')}`,
  );
  console.log(`  the machine takes ${Math.round(perSecond)} steps a second`);
}
