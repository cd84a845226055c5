import { fork } from 'node:child_process';
import { parentPort, workerData } from 'node:worker_threads';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';
import { childFile } from '../child-file.js';
import { systemClock } from '../system-clock.js';
import { spawnPlayer, spawnRecorder } from './alsa.js';
import { CardRun, type Key } from './card-run.js';
import type { FromKeyChild, ToKeyChild } from './key-child.js';
import type { KeyAddress } from './key-ports.js';
import type { FromSoundThread, SoundCardSettings, ToSoundThread } from './sound-messages.js';

const say = (message: FromSoundThread): void => parentPort?.postMessage(message);
const fail = ({ failure, detail }: LinkFailed): void => say({ kind: 'failed', failure, detail });

let run: CardRun | undefined;
parentPort?.on('message', (message: ToSoundThread) => {
  if (message.kind === 'kiss') return run?.send(message.octets);
  if (message.kind === 'send at') return run?.sendAt(message.levelDbfs);
  run?.end();
  // Children get their signals before this thread is gone.
  setTimeout(() => process.exit(), 50);
});

begin(workerData as SoundCardSettings).catch((error: unknown) => fail(failureOf(error)));

async function begin(settings: SoundCardSettings): Promise<void> {
  // First the key: a radio that was left keyed is let go before anything else.
  const key = settings.key && (await openKey(settings.key));
  const { rateHz } = settings.tnc;
  run = new CardRun(settings, {
    clock: systemClock,
    dice: Math.random,
    recorder: spawnRecorder(settings.input, rateHz),
    player: settings.plays ? spawnPlayer(settings.output, rateHz) : undefined,
    key,
    opened: () => say({ kind: 'opened' }),
    octets: (octets) => say({ kind: 'octets', octets }),
    report: (report) => say({ kind: 'report', report, atMs: Date.now() }),
    failed: fail,
  });
}

function openKey(address: KeyAddress): Promise<Key> {
  const child = fork(childFile('sound/key-child'), {
    execArgv: [],
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const tell = (message: ToKeyChild): void => {
    if (child.connected) child.send(message, () => undefined);
  };
  return new Promise((resolve, reject) => {
    child.on('message', (message: FromKeyChild) => {
      if (message.kind === 'opened')
        return resolve({
          down: (limitMs) => tell({ kind: 'down', limitMs }),
          up: () => tell({ kind: 'up' }),
          close: () => child.connected && child.disconnect(),
        });
      const failure = new LinkFailed('key-failed', message.words);
      reject(failure);
      if (run) run.fail(failure);
      else child.kill();
    });
    child.on('exit', () => {
      const failure = new LinkFailed('key-failed', 'the process that holds the key ended');
      reject(failure);
      run?.fail(failure);
    });
    tell({ kind: 'open', address });
  });
}
