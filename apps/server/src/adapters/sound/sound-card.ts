import { Worker } from 'node:worker_threads';
import type { LinkSettings } from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP, type SoundSetup } from '@mistpeak/contract/sound';
import { AsyncQueue } from '@mistpeak/link/async-queue';
import type { ByteLink } from '@mistpeak/link/byte-link';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';
import { tncSettings } from '@mistpeak/link/sound-setup';
import type { SoundReport } from '@mistpeak/link/watched-tnc';
import { childFile } from '../child-file.js';
import type { KeyAddress } from './key-ports.js';
import type { FromSoundThread, SoundCardSettings, ToSoundThread } from './sound-messages.js';

/** A report with the clock's time at the end of what it has heard. */
export type ReportTaker = (report: SoundReport, atMs: number) => void;

/** A sound card as a TNC, whose level can be moved while it is open. */
export interface SoundCardLink extends ByteLink {
  sendAt(levelDbfs: number): void;
  /** Resolves when the card is free again. */
  readonly ended: Promise<void>;
}

/**
 * Opens a sound card of this machine as a TNC: the modem in a thread of its own, ALSA's programs and the key in processes of
 * their own. Rejects with LinkFailed.
 */
export function openSoundCard(
  settings: LinkSettings,
  signal: AbortSignal,
  report: ReportTaker,
): Promise<SoundCardLink> {
  const thread = new Worker(childFile('sound/sound-thread'), {
    execArgv: [],
    workerData: cardSettings(settings),
    env: process.env,
  });
  const received = new AsyncQueue<Uint8Array>();
  const tell = (message: ToSoundThread): void => thread.postMessage(message);
  return new Promise((resolve, reject) => {
    signal.addEventListener('abort', () => tell({ kind: 'close' }), { once: true });
    thread.on('message', (message: FromSoundThread) => {
      if (message.kind === 'opened') resolve({ receive: received, send, close, sendAt, ended });
      else if (message.kind === 'octets') received.push(message.octets);
      else if (message.kind === 'report') report(message.report, message.atMs);
      else end(new LinkFailed(message.failure, message.detail));
    });
    thread.on('error', (error) => end(failureOf(error)));
    thread.on('exit', () => end(new LinkFailed('sound-gone')));
    const send = (octets: Uint8Array): Promise<void> => Promise.resolve(tell({ kind: 'kiss', octets }));
    const ended = new Promise<void>((done) => thread.once('exit', () => done()));
    const sendAt = (levelDbfs: number): void => tell({ kind: 'send at', levelDbfs });
    const close = (): Promise<void> => {
      received.end();
      tell({ kind: 'close' });
      return thread.threadId === -1 ? Promise.resolve() : ended;
    };
    const end = (failure: LinkFailed): void => {
      reject(failure);
      received.end(failure);
      tell({ kind: 'close' });
    };
  });
}

function cardSettings({ sound = USUAL_SOUND_SETUP, airRate }: LinkSettings): SoundCardSettings {
  const { input, output, hears, sendsOn, keying } = sound;
  return {
    input,
    output,
    hears,
    sendsOn,
    plays: keying !== 'none',
    key: keyOf(sound),
    tnc: tncSettings(sound, sound.rateHz, airRate),
  };
}

export function keyOf({ keying, keyDevice, keyLine, keyPin }: SoundSetup): KeyAddress | undefined {
  if (keying === 'line' && keyDevice && keyLine) return { kind: 'line', device: keyDevice, line: keyLine };
  if (keying === 'pin' && keyDevice && keyPin) return { kind: 'pin', device: keyDevice, pin: keyPin };
  return undefined;
}
