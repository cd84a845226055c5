import { Gathering } from '@mistpeak/core/levels/heard';
import { judgeReceive } from '@mistpeak/core/levels/receive-check';
import { DECODERS, type DecoderName } from '@mistpeak/core/modem/demodulator';
import { addNoise } from '@mistpeak/core/modem/generator/noise';
import { inventedFrames, joined, transmission, type Sending } from '@mistpeak/core/modem/generator/track';
import { seededDice } from '@mistpeak/core/network/dice';
import { WatchedTnc } from '@mistpeak/link/watched-tnc';

const BLOCKS_A_SECOND = 50;
/** The page is told every third block. */
const REPORT_EVERY = 3;
const SEEDS = 200;

/** A sound card's whole way in a worker: modem, carrier sense, levels, spectrum, hum; and what the verdicts make of good sound. */
export function levelsBenchmark(): void {
  for (const rateHz of [48_000, 44_100, 22_050])
    console.log(
      `  ${String(rateHz).padStart(6)} Hz, times real time: ${DECODERS.map((decoder) => `${decoder} ${timesRealTime(rateHz, decoder).toFixed(0)}`).join(', ')} (goal 10 of default at 48000)`,
    );
  for (const decoder of DECODERS)
    console.log(
      `  heard to told, ${decoder}: ${heardToToldMs(decoder).toFixed(0)} ms after the closing flag, at most (goal 500 with the drawing)`,
    );
  console.log(`  false alarms on good sound: ${falseAlarms()} in ${SEEDS} seeds (goal none)`);
}

function tnc(rateHz: number, decoder: DecoderName): WatchedTnc {
  return new WatchedTnc(
    { rateHz, decoder, levelDbfs: -12 },
    { octets: () => undefined, key: () => undefined, dice: () => 1 },
  );
}

/** Ten stations in noise, as a busy channel sounds. */
function channel(rateHz: number, seed: number, more: Partial<Sending> = {}, noiseDbfs = -40): Float32Array {
  const dice = seededDice(seed);
  const sound = joined(
    inventedFrames(10, dice, { from: 20, to: 100 }).map((frame) =>
      transmission([frame], { rateHz, levelDbfs: -16, txDelayMs: 300, pauseMs: 500, ...more }),
    ),
  );
  addNoise(sound, 10 ** (noiseDbfs / 20) / Math.SQRT2, dice);
  return sound;
}

function timesRealTime(rateHz: number, decoder: DecoderName): number {
  const sound = channel(rateHz, 1);
  const one = tnc(rateHz, decoder);
  const block = rateHz / BLOCKS_A_SECOND;
  const begun = performance.now();
  for (let at = 0; at + block <= sound.length; at += block) {
    one.run(sound.subarray(at, at + block));
    if ((at / block) % REPORT_EVERY === 0) one.report();
  }
  return (1000 * sound.length) / rateHz / (performance.now() - begun);
}

/** By the samples alone: how much sound passes between the end of a packet and the report that holds it. */
function heardToToldMs(decoder: DecoderName): number {
  const rateHz = 48_000;
  const sound = channel(rateHz, 2);
  const one = tnc(rateHz, decoder);
  const block = rateHz / BLOCKS_A_SECOND;
  let most = 0;
  for (let at = 0; at + block <= sound.length; at += block) {
    one.run(sound.subarray(at, at + block));
    if ((at / block) % REPORT_EVERY !== 0) continue;
    const { news, heardMs } = one.report();
    for (const { atMs } of news.packets) most = Math.max(most, heardMs - atMs);
  }
  return most;
}

function falseAlarms(): number {
  const rateHz = 11_025;
  const block = Math.round(rateHz / BLOCKS_A_SECOND);
  let found = 0;
  for (let seed = 1; seed <= SEEDS; seed++) {
    const dice = seededDice(1000 + seed);
    const sending = { levelDbfs: -27 + 16 * dice(), twistDb: -1 + 2 * dice(), txDelayMs: 150 + 300 * dice() };
    const sound = channel(rateHz, seed, sending, -55 + 12 * dice());
    const one = tnc(rateHz, 'light');
    for (let at = 0; at < sound.length; at += block) one.run(sound.subarray(at, at + block));
    const { news, shape } = one.report();
    const gathering = new Gathering(shape);
    gathering.take(news);
    found += judgeReceive(gathering.heard).findings.length;
  }
  return found;
}
