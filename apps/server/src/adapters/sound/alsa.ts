import { spawn, type ChildProcess } from 'node:child_process';
import { LinkFailed } from '@mistpeak/link/failure';

/** 16 bits, little end first, two channels: what every card takes through the plug layer. */
const FORMAT = ['-q', '-t', 'raw', '-f', 'S16_LE', '-c', '2'] as const;
export const FRAME_OCTETS = 4;
/** Long enough for a busy machine, short enough for an answer; the card is asked every 20 ms. */
export const BUFFER_MS = 200;
const PERIOD_MS = 20;

const timing = [`--buffer-time=${1000 * BUFFER_MS}`, `--period-time=${1000 * PERIOD_MS}`];

/** device: a name of ALSA; absent: its default. */
export function spawnRecorder(device: string | undefined, rateHz: number): ChildProcess {
  return spawn('arecord', [...FORMAT, '-r', String(rateHz), ...timing, ...deviceArguments(device)], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: process.env,
  });
}

export function spawnPlayer(device: string | undefined, rateHz: number): ChildProcess {
  return spawn('aplay', [...FORMAT, '-r', String(rateHz), ...timing, ...deviceArguments(device)], {
    stdio: ['pipe', 'ignore', 'pipe'],
    env: process.env,
  });
}

const deviceArguments = (device: string | undefined): string[] => (device ? ['-D', device] : []);

/** What the programs of ALSA write when they end, as a failure with its words. isOpen: sound had come before. */
export function failureOfAlsa(words: string, isOpen: boolean): LinkFailed {
  const detail = words.trim().split('\n').slice(-2).join(' ');
  if (/busy/i.test(words)) return new LinkFailed('sound-busy', detail);
  if (/rate|sample format|channels count/i.test(words) && /not (?:available|accurate)/i.test(words))
    return new LinkFailed('sound-rate', detail);
  if (isOpen) return new LinkFailed('sound-gone', detail);
  if (/no such file|no such device|unknown pcm|cannot get card index/i.test(words))
    return new LinkFailed('no-such-sound', detail);
  return new LinkFailed('no-sound', detail);
}

export interface SoundDevices {
  readonly inputs: readonly string[];
  readonly outputs: readonly string[];
}

/** By names that a card keeps when it is plugged in again; empty where ALSA's programs are not installed. */
export async function listSoundCards(): Promise<SoundDevices> {
  const [inputs, outputs] = await Promise.all([namesOf('arecord'), namesOf('aplay')]);
  return { inputs, outputs };
}

async function namesOf(program: 'arecord' | 'aplay'): Promise<string[]> {
  const child = spawn(program, ['-L'], { stdio: ['ignore', 'pipe', 'ignore'], env: process.env });
  let text = '';
  child.stdout.on('data', (part: Buffer) => (text += part.toString()));
  const ended = await new Promise<boolean>((resolve) => {
    child.once('error', () => resolve(false));
    child.once('close', () => resolve(true));
  });
  return ended ? readNames(text) : [];
}

/** Names stand at the beginning of a line, what they mean is set in below. */
export function readNames(text: string): string[] {
  const names = text.split('\n').filter((line) => /^\S/.test(line));
  // Of the many ways to a card the one that takes any rate and format.
  return names.filter((name) => name.startsWith('plughw:CARD=') || (!name.includes(':') && name !== 'null'));
}
