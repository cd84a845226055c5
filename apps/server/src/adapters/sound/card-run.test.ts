import { EventEmitter } from 'node:events';
import { PassThrough, Writable } from 'node:stream';
import type { ChildProcess } from 'node:child_process';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { Demodulator } from '@mistpeak/core/modem/demodulator';
import { transmission } from '@mistpeak/core/modem/generator/track';
import type { LinkFailed } from '@mistpeak/link/failure';
import { Timetable } from '@mistpeak/core/network/timetable';
import { CardRun } from './card-run.js';
import type { SoundCardSettings } from './sound-messages.js';

const RATE_HZ = 11_025;
const BLOCK = Math.round(RATE_HZ / 50);
const FRAME = encodeFrame(uiFrame('1X9TST-7', 'APZMPK', [], Buffer.from('>by sound')));

const SETTINGS: SoundCardSettings = {
  input: undefined,
  output: undefined,
  hears: 'left',
  sendsOn: 'right',
  plays: true,
  key: undefined,
  tnc: { rateHz: RATE_HZ, decoder: 'light', levelDbfs: -12 },
};

/** A program of ALSA as a pair of pipes. */
class Program extends EventEmitter {
  readonly stdout = new PassThrough();
  readonly stderr = new PassThrough();
  constructor(readonly stdin: Writable) {
    super();
  }
  wasKilled = false;
  kill(): boolean {
    this.wasKilled = true;
    return true;
  }
}

/** Takes nothing, ever. */
const stuck = (): Writable => new Writable({ write: () => undefined });

function bench(sink: Writable = new PassThrough({ highWaterMark: 1 << 24 })) {
  const clock = new Timetable(0);
  const [recorder, player] = [new Program(sink), new Program(sink)];
  const keys: string[] = [];
  const failures: LinkFailed[] = [];
  const octets: Uint8Array[] = [];
  let opened = 0;
  let reports = 0;
  const run = new CardRun(SETTINGS, {
    clock,
    dice: () => 0,
    recorder: recorder as unknown as ChildProcess,
    player: player as unknown as ChildProcess,
    key: {
      down: (limitMs) => keys.push(`down ${limitMs}`),
      up: () => keys.push('up'),
      close: () => keys.push('let go'),
    },
    opened: () => opened++,
    octets: (some) => octets.push(some),
    report: () => reports++,
    failed: (failure) => failures.push(failure),
  });
  /** Sound on the left channel, the right one silent. */
  const hear = async (sound: Float32Array): Promise<void> => {
    const both = Buffer.alloc(4 * sound.length);
    sound.forEach((sample, i) => both.writeInt16LE(Math.round(32_767 * sample), 4 * i));
    // Cut where no sample ends.
    for (let at = 0; at < both.length; at += 1001) {
      recorder.stdout.write(both.subarray(at, at + 1001));
      await new Promise((resolve) => setImmediate(resolve));
    }
  };
  const played = (): { left: Float32Array; right: Float32Array } => {
    const all = ((sink as PassThrough).read() as Buffer | null) ?? Buffer.alloc(0);
    const side = (offset: number): Float32Array =>
      Float32Array.from({ length: all.length / 4 }, (_, i) => all.readInt16LE(4 * i + offset) / 32_768);
    return { left: side(0), right: side(2) };
  };
  return {
    clock,
    recorder,
    player,
    keys,
    failures,
    octets,
    run,
    hear,
    played,
    counts: () => ({ opened, reports }),
  };
}

it('gives as KISS what it hears, from the channel that was chosen, however the octets are cut', async () => {
  const { hear, octets, counts } = bench();
  await hear(transmission([FRAME], { rateHz: RATE_HZ, pauseMs: 800 }));
  const [item] = octets.flatMap((some) => new KissDecoder().push(some));
  expect(item && 'payload' in item && Buffer.from(item.payload).toString('hex')).toBe(
    Buffer.from(FRAME).toString('hex'),
  );
  expect(counts().opened).toBe(1);
  expect(counts().reports).toBeGreaterThan(10);
});

it('plays what is sent on its channel, and holds the key from before its first sample to after its last', async () => {
  const { run, hear, played, keys, clock } = bench();
  await hear(new Float32Array(10 * BLOCK));
  played();
  run.send(encodeKiss({ port: 0, command: 'data', payload: FRAME }));
  const sound: Float32Array[] = [];
  for (let i = 0; i < 150; i++) {
    await hear(new Float32Array(BLOCK));
    const { left, right } = played();
    sound.push(right);
    expect(left.every((sample) => sample === 0)).toBe(true);
  }
  const all = Float32Array.from(sound.flatMap((part) => [...part]));
  expect(new Demodulator(RATE_HZ, 'light').push(all).map(({ raw }) => [...raw])).toEqual([[...FRAME]]);
  expect(keys[0]).toBe('down 1000');
  expect(new Set(keys)).toEqual(new Set(['down 1000']));
  clock.advance(199);
  expect(keys).not.toContain('up');
  clock.advance(1);
  expect(keys.at(-1)).toBe('up');
});

it('in silence gives the player a little less than it plays, in an over all', async () => {
  const { run, hear, played } = bench();
  await hear(new Float32Array(200 * BLOCK));
  expect(played().left.length / BLOCK).toBe(196);
  run.send(encodeKiss({ port: 0, command: 'data', payload: FRAME }));
  const sound: number[] = [];
  for (let i = 0; i < 100; i++) {
    await hear(new Float32Array(BLOCK));
    sound.push(...played().right);
  }
  // From its first sample to its last no block is missing.
  expect(new Demodulator(RATE_HZ, 'light').push(Float32Array.from(sound))).toHaveLength(1);
});

describe('trouble is named, and the key let go first', () => {
  const lets = (keys: readonly string[]): boolean => keys.includes('up') && keys.at(-1) === 'let go';

  it('unplugged in mid-packet', async () => {
    const { run, hear, recorder, player, failures, keys } = bench();
    await hear(new Float32Array(10 * BLOCK));
    run.send(encodeKiss({ port: 0, command: 'data', payload: FRAME }));
    for (let i = 0; i < 30 && keys.length === 0; i++) await hear(new Float32Array(BLOCK));
    expect(keys[0]).toMatch(/^down/);
    recorder.stderr.write('arecord: pcm_read:2221: read error: No such device\n');
    await new Promise((resolve) => setImmediate(resolve));
    recorder.emit('close', 1);
    expect(failures.map(({ failure }) => failure)).toEqual(['sound-gone']);
    expect(lets(keys)).toBe(true);
    expect([recorder.wasKilled, player.wasKilled]).toEqual([true, true]);
    // What still comes is nobody's any more.
    await hear(new Float32Array(BLOCK));
    player.emit('close', 0);
    expect(failures).toHaveLength(1);
  });

  it('busy before any sound, and the program that is not installed', () => {
    const busy = bench();
    busy.recorder.stderr.emit('data', Buffer.from('audio open error: Device or resource busy'));
    busy.recorder.emit('close', 1);
    expect(busy.failures[0]?.failure).toBe('sound-busy');
    const missing = bench();
    missing.player.emit('error', Object.assign(new Error('spawn aplay ENOENT'), { code: 'ENOENT' }));
    expect(missing.failures[0]?.failure).toBe('no-alsa');
  });

  it('no samples for three seconds', async () => {
    const { hear, clock, failures, keys } = bench();
    clock.advance(2999);
    await hear(new Float32Array(BLOCK));
    clock.advance(2999);
    expect(failures).toEqual([]);
    clock.advance(1);
    expect(failures[0]?.failure).toBe('sound-gone');
    expect(lets(keys)).toBe(true);
    const never = bench();
    never.clock.advance(3000);
    expect(never.failures[0]?.failure).toBe('no-sound');
  });

  it('a player that takes nothing: silence is left out, and an over is broken off', async () => {
    const { run, hear, player, failures, keys } = bench(stuck());
    await hear(new Float32Array(100 * BLOCK));
    // A tenth of a second, and the block that goes beyond it.
    expect(player.stdin.writableLength / 4).toBeLessThanOrEqual(0.1 * RATE_HZ + 2 * BLOCK);
    expect(failures).toEqual([]);
    for (let i = 0; i < 10; i++)
      run.send(
        encodeKiss({
          port: 0,
          command: 'data',
          payload: Uint8Array.from([...FRAME, ...new Uint8Array(200)]),
        }),
      );
    for (let i = 0; i < 200 && failures.length === 0; i++) await hear(new Float32Array(BLOCK));
    expect(failures[0]?.failure).toBe('sound-stuck');
    expect(lets(keys)).toBe(true);
  });
});
