import { SerialPort } from 'serialport';
import { endWhenHungUp } from './hang-up.js';

/** The process that holds one serial port. It ends when the port or its parent does. */
export type ToChild =
  | { readonly kind: 'open'; readonly device: string; readonly speed: number }
  | { readonly kind: 'send'; readonly octets: Uint8Array }
  | { readonly kind: 'close' };

export type FromChild =
  | { readonly kind: 'opened' }
  | { readonly kind: 'received'; readonly octets: Uint8Array }
  | { readonly kind: 'failed'; readonly code: string | undefined; readonly words: string }
  | { readonly kind: 'ended'; readonly words: string };

let port: SerialPort | undefined;

if (process.send) {
  process.on('message', (message: ToChild) => take(message));
  process.on('disconnect', () => process.exit());
  // Ctrl-C reaches the whole process group; the parent closes this port in its turn.
  process.on('SIGINT', () => undefined);
}

function take(message: ToChild): void {
  if (message.kind === 'open') open(message.device, message.speed);
  else if (message.kind === 'send') port?.write(Buffer.from(message.octets));
  else finish();
}

function tell(message: FromChild): void {
  if (process.connected) process.send?.(message);
}

function open(device: string, speed: number): void {
  port = new SerialPort({
    path: device,
    baudRate: speed,
    rtscts: false,
    xon: false,
    xoff: false,
    autoOpen: false,
  });
  port.on('data', (octets: Buffer) => tell({ kind: 'received', octets }));
  port.on('error', (error: Error & { code?: string }) =>
    tell({ kind: 'failed', code: error.code, words: error.message }),
  );
  port.on('close', (error: Error | null) => {
    tell({ kind: 'ended', words: error?.message ?? '' });
    setTimeout(() => process.exit(), 100);
  });
  port.open((error: (Error & { code?: string }) | null) => {
    if (port?.port && 'poller' in port.port) endWhenHungUp(port.port);
    tell(error ? { kind: 'failed', code: error.code, words: error.message } : { kind: 'opened' });
  });
}

/** Lets what was written leave, then closes; a stuck drain does not hold the process. */
function finish(): void {
  setTimeout(() => process.exit(), 1000).unref();
  if (!port?.isOpen) process.exit();
  port.drain(() => port?.close(() => process.exit()));
}
