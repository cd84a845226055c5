import { systemClock } from '../system-clock.js';
import { KeyHolder } from './key-holder.js';
import { openKeyPort, type KeyAddress } from './key-ports.js';

/** The process that holds the key. It lets go when its time is over, when it is told, and when its parent is gone. */
export type ToKeyChild =
  | { readonly kind: 'open'; readonly address: KeyAddress }
  | { readonly kind: 'down'; readonly limitMs: number }
  | { readonly kind: 'up' };

export type FromKeyChild =
  | { readonly kind: 'opened' }
  | { readonly kind: 'failed'; readonly code: string | undefined; readonly words: string };

let holder: KeyHolder | undefined;

if (process.send) {
  process.on('message', (message: ToKeyChild) => take(message));
  process.on('disconnect', () => void end());
  // Ctrl-C reaches the whole process group; the parent ends this one in its turn.
  process.on('SIGINT', () => undefined);
  process.on('SIGTERM', () => void end());
}

function take(message: ToKeyChild): void {
  if (message.kind === 'open') void open(message.address);
  else if (message.kind === 'down') holder?.down(message.limitMs);
  else holder?.up();
}

async function open(address: KeyAddress): Promise<void> {
  try {
    const port = await openKeyPort(address);
    holder = new KeyHolder(port, systemClock, fail);
    await holder.begin();
    tell({ kind: 'opened' });
  } catch (error) {
    fail(error);
  }
}

function fail(error: unknown): void {
  const { code, message } = error as { code?: string; message?: string };
  tell({ kind: 'failed', code, words: message ?? String(error) });
}

function tell(message: FromKeyChild): void {
  if (process.connected) process.send?.(message);
}

async function end(): Promise<void> {
  await holder?.end();
  process.exit();
}
